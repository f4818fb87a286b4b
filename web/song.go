package web

import (
	"fmt"
	"html/template"
	"net/url"

	"github.com/gofiber/fiber/v3"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/songs"
)

type songPage struct {
	Page
	songs.Song
	songs.SongPage
	Clash *clash       // with an edit in another window
	Query template.URL // instrument and pattern, kept when the song is edited
}

// Roles and Meters are the choices of the page.
func (songPage) Roles() any              { return song.Roles }
func (songPage) Meters() []pattern.Meter { return pattern.Meters }

// Edit is where the forms of the page go.
func (p songPage) Edit() string { return fmt.Sprintf("/songs/%d/edit?%s", p.Song.Song.ID, p.Query) }

// Parts are the sections of different names, for which a ladder can be made.
func (p songPage) Parts() (list []song.Section) {
	seen := map[string]bool{}
	for _, sec := range p.Song.Song.Sections {
		if !seen[sec.Name] {
			list = append(list, sec)
		}
		seen[sec.Name] = true
	}
	return list
}

// songAsk is what the address asks of a song's page; a form's own fields are not
// the address's.
func songAsk(c fiber.Ctx) songs.Ask {
	return songs.Ask{Instrument: c.Query("instrument"), Pattern: c.Query("pattern"), Chord: c.Query("chord")}
}

func (s *server) loadSong(c fiber.Ctx) (songs.Song, answer.Rows, error) {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return songs.Song{}, "", err
	}
	return s.Songs.Load(c.Context(), who(c), class(c), id, songAsk(c))
}

func (s *server) songPage(c fiber.Ctx) error {
	return s.showSong(c, songPage{Page: page(c, "", "songs")})
}

func (s *server) showSong(c fiber.Ctx, p songPage) error {
	on, rows, err := s.loadSong(c)
	if err != nil {
		return err
	}
	p.Title, p.Song = on.Song.Title, on
	if c.Method() == fiber.MethodGet && unchanged(c, p.Page, rows) {
		return nil
	}
	p.SongPage = s.Songs.Show(on, rows)
	p.Query = template.URL("instrument=" + url.QueryEscape(on.Instrument.ID))
	if on.Chosen {
		p.Query += template.URL("&pattern=" + url.QueryEscape(on.Pattern.ID))
	}
	if c.Method() != fiber.MethodGet { // what was done can change what the page shows; loading it again shows the same
		c.Set("HX-Replace-Url", fmt.Sprintf("/songs/%d?%s", on.Song.ID, p.Query))
	}
	return render(c, "song", "song_body", p.Page, p)
}

type aroundPage struct {
	Page
	songs.Around
	Song    songs.Song
	Near    nearby
	Move    string // where the form of a move goes: the pattern that is shown stays
	Version int
}

// nearby is where the neighbours of a figure lead.
type nearby struct {
	patterns.Neighbours
	Of    string      // the figure
	On    *songs.Song // on which they are put with one click; nil for the bench
	Edit  string      // where that form goes
	Keys  bool        // buttons of the bench
	Other string      // the address of the other depth
	CSRF  string
}

// songAround is what lies about the pattern of a song, loaded when it is opened.
func (s *server) songAround(c fiber.Ctx) error {
	on, rows, err := s.loadSong(c)
	if err != nil {
		return err
	}
	deep := c.Query("deep") != ""
	p := aroundPage{Page: page(c, on.Song.Title, "songs"), Song: on, Version: on.Song.Version}
	if unchanged(c, p.Page, rows, deep) {
		return nil
	}
	query := fmt.Sprintf("instrument=%s&pattern=%s", url.QueryEscape(on.Instrument.ID), url.QueryEscape(on.Ask.Pattern))
	p.Around = s.Songs.AroundSong(on, rows, deep)
	p.Move = fmt.Sprintf("/songs/%d/edit?%s", on.Song.ID, query)
	p.Near = nearby{Neighbours: p.Around.Near, CSRF: p.CSRF, Of: on.Pattern.Name, On: &on, Edit: fmt.Sprintf("/songs/%d/edit?instrument=%s", on.Song.ID, url.QueryEscape(on.Instrument.ID)),
		Other: otherDepth(fmt.Sprintf("/songs/%d/around?%s", on.Song.ID, query), deep)}
	return render(c, "song_around", "song_around", p.Page, p)
}

func otherDepth(path string, deep bool) string {
	if deep {
		return path
	}
	return path + "&deep=yes"
}

// songLeft is what the song asks of the left hand, loaded when it is opened.
func (s *server) songLeft(c fiber.Ctx) error {
	on, rows, err := s.loadSong(c)
	if err != nil {
		return err
	}
	p := struct {
		Page
		Lines []songs.LeftHand
	}{page(c, on.Song.Title, "songs"), nil}
	if unchanged(c, p.Page, rows) {
		return nil
	}
	p.Lines = s.Songs.LeftHands(on, rows)
	return render(c, "song_left", "song_left", p.Page, p)
}

type keysPage struct {
	Page
	songs.Keys
}

func (s *server) keyTable(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	return s.showKeys(c, id, "")
}

// showKeys shows the table; what could not be read stands in its field with a sentence.
func (s *server) showKeys(c fiber.Ctx, id ref.Song, problem string) error {
	keys, err := s.Songs.LoadKeys(c.Context(), who(c), class(c), id)
	if err != nil {
		return err
	}
	p := keysPage{page(c, "Keys for "+keys.Song.Title, "songs"), keys}
	if p.Problem = problem; problem != "" {
		p.Sung = text(c)
		c.Status(fiber.StatusUnprocessableEntity)
	}
	return c.Render("song_keys", p)
}

// clash is a stale edit with the form as it was sent.
type clash struct {
	*songs.Clash
	Sent []sentField
}

// editSong carries out one edit. A stale one comes back with both texts.
func (s *server) editSong(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	version, err := formVersion(c)
	if err != nil {
		return err
	}
	edit, err := s.readEdit(c)
	var says string
	var other *songs.Clash
	if err == nil {
		says, other, err = s.Songs.Edit(c.Context(), who(c), id, version, edit)
	}
	if problem, ok := refusal(err); ok && c.FormValue("back") == "keys" {
		return s.showKeys(c, id, problem)
	}
	if err != nil {
		return err
	}
	if other != nil && c.FormValue("back") == "melody" {
		return fiber.NewError(fiber.StatusConflict, "The song was changed in another window. Your text is still here. Open the page in a second tab to see both.")
	}
	if other != nil {
		p := songPage{Page: page(c, "", "songs"), Clash: &clash{other, slicesWithout(sentFields(c), "version")}}
		c.Status(fiber.StatusConflict)
		return s.showSong(c, p)
	}
	undo := fmt.Sprintf("/songs/%d/undo?%s", id, query(c))
	if c.FormValue("back") == "melody" {
		undo = fmt.Sprintf("/songs/%d/undo?%s", id, c.Request().URI().QueryString())
	}
	return s.afterSong(c, id, Note{says + ".", undo, version + 1})
}

// afterSong shows the song, or the key table from which the edit came.
func (s *server) afterSong(c fiber.Ctx, id ref.Song, note Note) error {
	path := fmt.Sprintf("/songs/%d", id)
	if c.FormValue("back") == "melody" {
		path += "/melody?" + string(c.Request().URI().QueryString())
		return after(c, note, path, func(note Note) error { return s.showMelody(c, id, note) })
	}
	if c.FormValue("back") == "keys" {
		path += "/keys"
	} else {
		path += "?" + query(c)
	}
	return after(c, note, path, func(note Note) error {
		p := songPage{Page: page(c, "", "songs")}
		p.Note = note
		return s.showSong(c, p)
	})
}

// moveSong takes the last edit back, or does it again, of the version that the page
// showed: what another window has done since then is not undone unseen.
func (s *server) moveSong(by int) fiber.Handler {
	return func(c fiber.Ctx) error {
		id, err := pathID[ref.Song](c)
		if err != nil {
			return err
		}
		version, err := formVersion(c)
		if err != nil {
			return err
		}
		says, other, err := s.Songs.Move(c.Context(), who(c), id, version, by)
		if err != nil {
			return err
		}
		if other != nil {
			c.Status(fiber.StatusConflict)
			return s.showSong(c, songPage{Page: page(c, "", "songs"), Clash: &clash{Clash: other}})
		}
		return s.afterSong(c, id, Note{Text: says + "."})
	}
}

func slicesWithout(fields []sentField, name string) (list []sentField) {
	for _, f := range fields {
		if f.Name != name {
			list = append(list, f)
		}
	}
	return list
}
