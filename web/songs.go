package web

import (
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/gofiber/fiber/v3"

	"arplin/format/chordpro"
	"arplin/store"
	"arplin/teach"
)

type songList struct {
	Page
	Songs []store.SongLine
	Pages listPages
}

func (s *server) songList(c fiber.Ctx) error {
	find := finding(c)
	songs, more, err := s.Store.Songs(c.Context(), who(c), find)
	if err != nil {
		return err
	}
	p := songList{page(c, "Songs", "songs"), songs, pagesOf("/songs", "Find a song", find, more)}
	if unchanged(c, p.Page, songs, p.Pages) {
		return nil
	}
	return c.Render("songs", p)
}

type newSongPage struct {
	Page
	SongTitle string
	Text      string
	Problems  []chordpro.Problem
	CanKeep   bool // there are bars, so the song can be kept as it is
}

func (s *server) newSong(c fiber.Ctx) error {
	return c.Render("song_new", newSongPage{Page: page(c, "New song", "songs")})
}

// addSong reads a pasted or uploaded sheet. When something cannot be read, the
// page comes back with the lines named and the text as it was; the teacher may
// mend it or keep the song with those places open.
func (s *server) addSong(c fiber.Ctx) error {
	text, err := sheetText(c)
	data := newSongPage{SongTitle: c.FormValue("title"), Text: text}
	if err != nil {
		data.Problems = []chordpro.Problem{{Reason: teach.Sentence(err.Error())}}
		return renderProblems(c, data)
	}
	sg, problems := chordpro.Read(text)
	if title := strings.Join(strings.Fields(data.SongTitle), " "); title != "" {
		sg.Title = title
	}
	data.CanKeep = len(sg.Bars()) > 0
	title, err := shortName(sg.Title, "the song", 120)
	switch {
	case err != nil:
		data.CanKeep = false
		data.Problems = append(problems, chordpro.Problem{Reason: teach.Sentence(err.Error())})
	case len(problems) > 0 && (c.FormValue("keep") == "" || !data.CanKeep):
		data.Problems = problems
	}
	if len(data.Problems) > 0 {
		return renderProblems(c, data)
	}
	sg.Title = title
	id, err := s.Store.AddSong(c.Context(), who(c), sg)
	if err != nil {
		return err
	}
	return seeOther(c, fmt.Sprintf("/songs/%d", id))
}

func renderProblems(c fiber.Ctx, data newSongPage) error {
	data.Page = page(c, "New song", "songs")
	return c.Status(fiber.StatusUnprocessableEntity).Render("song_new", data)
}

// sheetText is the uploaded file when there is one, else the pasted text.
func sheetText(c fiber.Ctx) (string, error) {
	pasted := c.FormValue("text")
	header, err := c.FormFile("file")
	if err != nil || header.Size == 0 {
		return pasted, nil
	}
	f, err := header.Open()
	if err != nil {
		return pasted, fmt.Errorf("the file could not be read: %w", err)
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, chordpro.MaxBytes+1))
	if err != nil {
		return pasted, fmt.Errorf("the file could not be read: %w", err)
	}
	if !utf8.Valid(data) || strings.ContainsRune(string(data), 0) {
		return pasted, fmt.Errorf("%s is not a plain-text file", header.Filename)
	}
	return string(data), nil
}
