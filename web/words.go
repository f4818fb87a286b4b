package web

import (
	"strconv"

	"github.com/gofiber/fiber/v3"

	"arplin/core/fretboard"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/songs"
)

// wordsPage is songs as words with chords over them: one, or a book with a list of contents.
type wordsPage struct {
	Page
	Sheets      []songs.WordsSheet
	Book        bool
	Instruments []fretboard.Instrument
	Instrument  string
}

// songWords is a song on one page.
func (s *server) songWords(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	w, err := s.Songs.LoadWords(c.Context(), who(c), class(c), id, c.Query("instrument"))
	if err != nil {
		return err
	}
	return c.Render("words", wordsPage{page(c, w.Song.Title, "songs"), []songs.WordsSheet{w}, false, class(c).Instruments(), w.Instrument.ID})
}

// songBook is several songs, in the order in which they were chosen.
func (s *server) songBook(c fiber.Ctx) error {
	var ids []ref.Song
	for _, text := range c.Request().URI().QueryArgs().PeekMulti("song") {
		if n, err := strconv.ParseInt(string(text), 10, 64); err == nil {
			ids = append(ids, ref.Song(n))
		}
	}
	if len(ids) == 0 || len(ids) > songs.MostInBook {
		return refuse("choose 1 to " + strconv.Itoa(songs.MostInBook) + " songs for the book")
	}
	book, err := s.Songs.LoadBook(c.Context(), who(c), class(c), ids, c.Query("instrument"))
	if err != nil {
		return err
	}
	if len(book) == 0 {
		return store.ErrNotFound
	}
	return c.Render("words", wordsPage{page(c, "Song book", "songs"), book, true, class(c).Instruments(), book[0].Instrument.ID})
}
