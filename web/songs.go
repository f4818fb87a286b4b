package web

import (
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/format/chordpro"
	"arplin/letters"
	"arplin/store"
	"arplin/teach/answer"
	"arplin/teach/files"
)

type songList struct {
	Page
	Songs []store.SongLine
	Pages listPages
}

func (s *server) songList(c fiber.Ctx) error {
	find := finding(c)
	songs, more, err := s.Songs.List(c.Context(), who(c), find)
	if err != nil {
		return err
	}
	p := songList{page(c, "Songs", "songs"), songs, pagesOf("/songs", "Find a song", find, more)}
	p.Pages.Shown = p.Pages.Shown || len(songs) > fewSongs
	if unchanged(c, p.Page, songs, p.Pages) {
		return nil
	}
	return c.Render("songs", p)
}

// fewSongs are found at a glance.
const fewSongs = 6

type newSongPage struct {
	Page
	SongTitle, Text string
	Names           chordpro.Names
	Preview         *files.Preview // of what was pasted; nil for nothing
	Unused          []string       // what of a file could not be used
}

func (s *server) newSong(c fiber.Ctx) error {
	return c.Render("song_new", newSongPage{Page: page(c, "New song", "songs")})
}

// pasted reads the sheet of the form.
func pasted(c fiber.Ctx) (newSongPage, error) {
	p := newSongPage{Page: page(c, "New song", "songs"), SongTitle: c.FormValue("title"), Text: c.FormValue("text"), Names: chordpro.Names(c.FormValue("names"))}
	data, err := sentFile(c)
	if err == nil && len(data) > 0 {
		err = p.open(data)
	}
	text := p.Text
	if strings.TrimSpace(text) != "" && err == nil {
		preview := files.PreviewSheet(text, p.Names)
		if title := strings.Join(strings.Fields(p.SongTitle), " "); title != "" {
			preview.Sheet.Song.Title = title
		}
		p.Preview = &preview
	}
	return p, err
}

// previewSong shows how a sheet is understood; nothing is stored.
func (s *server) previewSong(c fiber.Ctx) error {
	p, err := pasted(c)
	if err != nil {
		p.Problem = answer.Sentence(err.Error())
	}
	return c.Render("song_preview", p, "")
}

// addSong stores a pasted or uploaded sheet. When something cannot be read, the
// page comes back with the lines named and the text as it was; the teacher may
// mend it or keep the song with those places open: every line is in it.
func (s *server) addSong(c fiber.Ctx) error {
	p, err := pasted(c)
	if errors.Is(err, files.ErrTab) { // it becomes a figure
		return s.showTab(c, p.Text, "")
	}
	if err != nil {
		p.Problem = answer.Sentence(err.Error())
		c.Status(fiber.StatusUnprocessableEntity)
		return render(c, "song_new", "song_preview", p.Page, p)
	}
	if c.FormValue("look") != "" || len(p.Unused) > 0 && c.FormValue("keep") == "" {
		return c.Render("song_new", p)
	}
	if p.Preview == nil || !p.Preview.CanAdd || len(p.Preview.Sheet.Problems) > 0 && c.FormValue("keep") == "" {
		if p.Preview == nil {
			p.Problem = "There’s no sheet yet. Paste one or choose a file."
		}
		return c.Status(fiber.StatusUnprocessableEntity).Render("song_new", p)
	}
	id, err := s.Songs.Add(c.Context(), who(c), p.Preview.Sheet.Song)
	if problem, ok := refusal(err); ok {
		p.Problem = problem
		c.Status(fiber.StatusUnprocessableEntity)
		return render(c, "song_new", "song_preview", p.Page, p)
	}
	if err != nil {
		return err
	}
	return seeOther(c, fmt.Sprintf("/songs/%d", id))
}

// open reads a file into the page, where it stands as a chord sheet.
func (p *newSongPage) open(data []byte) error {
	o, err := files.OpenSong(data)
	if err != nil && !errors.Is(err, files.ErrTab) {
		return err
	}
	if p.Text = o.Text; o.From != files.ChordSheet {
		p.Unused = o.Unused
	}
	return err
}

// sentText is the text of the file that was sent, empty for none; a file that is none is refused.
func sentText(c fiber.Ctx) (string, error) {
	data, err := sentFile(c)
	if err != nil {
		return "", err
	}
	text, err := letters.Text(data)
	if err != nil {
		return "", &answer.Refusal{Clause: err.Error()}
	}
	return text, nil
}

// sentFile is the file that was sent; nil for none.
func sentFile(c fiber.Ctx) ([]byte, error) {
	header, err := c.FormFile("file")
	if err != nil || header.Size == 0 { // no file was chosen
		return nil, nil
	}
	f, err := header.Open()
	if err != nil {
		return nil, fmt.Errorf("the file could not be read: %w", err)
	}
	defer f.Close()
	data, err := io.ReadAll(f)
	if err != nil {
		return nil, fmt.Errorf("the file could not be read: %w", err)
	}
	return data, nil
}
