package web

import (
	"fmt"
	"html/template"
	"net/url"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder/station"
	"arplin/store/ref"
	"arplin/teach/people"
	"arplin/teach/songs"
)

type melodyPage struct {
	Page
	songs.Melody
	Care []string
}

// Query is what of the address stays with its forms.
func (p melodyPage) Query() template.URL {
	return template.URL(url.Values{"instrument": {p.Instrument.ID}, "station": {string(p.Station.ID)}, "back": {"melody"}}.Encode())
}

// Few reports a tune that has room for large bars on paper.
func (p melodyPage) Few() bool { return len(p.Song.Bars()) <= 12 }

// Score is the address of the station as it sounds.
func (p melodyPage) Score() string {
	return fmt.Sprintf("/songs/%d/melody/score?%s", p.Song.ID, url.Values{"instrument": {p.Instrument.ID}, "station": {string(p.Station.ID)}}.Encode())
}

// melody shows the tune of a song on strings.
func (s *server) melody(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	return s.showMelody(c, id, Note{})
}

func (s *server) showMelody(c fiber.Ctx, id ref.Song, note Note) error {
	m, err := s.Songs.LoadMelody(c.Context(), who(c), class(c), id, songs.MelodyAsk{Instrument: c.Query("instrument"), Station: station.ID(c.Query("station"))})
	if err != nil {
		return err
	}
	p := melodyPage{Page: page(c, m.Song.Title+": the melody", "songs"), Melody: m, Care: people.Care}
	if note.Text != "" {
		p.Note = note
	}
	return render(c, "melody", "melody_body", p.Page, p)
}

// melodyScore is a station as it sounds.
func (s *server) melodyScore(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	score, err := s.Songs.MelodyScore(c.Context(), who(c), class(c), id, station.ID(c.Query("station")), scoreAsk(c))
	return sendScore(c, score, err)
}
