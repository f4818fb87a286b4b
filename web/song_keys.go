package web

import (
	"fmt"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/song"
	"arplin/core/theory"
	"arplin/store"
)

type keysData struct {
	Page
	Song  store.Song
	Key   theory.Key
	Heads []string // instruments with their number of players
	Rows  []keyRow
	Voice song.Range
	Sung  string // the typed range of the song, "A3 D5"
	Class store.Class
	Most  float64
}

type keyRow struct {
	song.KeyRow
	Lines  []keyLine
	Chosen bool   // the key and the capos of now
	Apply  string // the edit's text
	Sings  string
}

type keyLine struct {
	song.KeyLine
	Chords string
	Share  int // of the hardest line in the table, in twentieths
}

// keyTable compares the twelve keys for the whole class.
func (s *server) keyTable(c fiber.Ctx) error {
	on, err := s.loadSong(c)
	if err != nil {
		return err
	}
	sg, cur := on.Song, on.cur
	data := keysData{Page: page(c, "Keys for "+sg.Title, "songs"), Song: sg, Key: sg.KeyGuess().Key, Class: cur.class, Voice: voiceOf(cur.class)}
	data.Sung = strings.TrimSpace(sg.Low + " " + sg.High)
	class := cur.playersByInstrument()
	for _, p := range class {
		data.Heads = append(data.Heads, fmt.Sprintf("%s (%d)", p.Instrument.Name, p.Count))
	}
	rows := sg.KeyTable(class, data.Voice)
	for _, r := range rows {
		for _, l := range r.Lines {
			data.Most = max(data.Most, l.Effort)
		}
	}
	for _, r := range rows {
		data.Rows = append(data.Rows, keyRowOf(r, sg.Song, data.Most))
	}
	return c.Render("song_keys", data)
}

func keyRowOf(r song.KeyRow, sg song.Song, most float64) keyRow {
	row := keyRow{KeyRow: r, Apply: r.Key.Symbol(), Chosen: r.Key.Tonic.Class() == sg.KeyGuess().Key.Tonic.Class()}
	for _, l := range r.Lines {
		var chords []string
		for _, ch := range l.Chords {
			chords = append(chords, ch.String())
		}
		row.Lines = append(row.Lines, keyLine{l, strings.Join(chords, " "), int(20*l.Effort/max(most, 1) + 0.5)})
		row.Apply += fmt.Sprintf(" %s:%d", l.Instrument.ID, l.Capo)
		row.Chosen = row.Chosen && sg.Capo[l.Instrument.ID] == l.Capo
	}
	switch {
	case r.Sung == nil:
	case r.Outside == 0:
		row.Sings = fmt.Sprintf("%s to %s", r.Sung.Low, r.Sung.High)
	default:
		row.Sings = fmt.Sprintf("%s to %s, %s outside", r.Sung.Low, r.Sung.High, plural(r.Outside, "semitone", "semitones"))
	}
	return row
}

// voiceOf is the class's comfortable range.
func voiceOf(class store.Class) song.Range {
	low, errLow := theory.ParsePitch(class.SingLow)
	high, errHigh := theory.ParsePitch(class.SingHigh)
	if errLow != nil || errHigh != nil {
		return song.DefaultRange
	}
	return song.Range{Low: low, High: high}
}

// playersByInstrument counts the class; an empty class is one guitar.
func (cur current) playersByInstrument() []song.Players {
	var list []song.Players
	for _, ins := range cur.instruments() {
		p := song.Players{Instrument: ins}
		for _, st := range cur.students {
			if st.Instrument == ins.ID {
				p.Count++
			}
		}
		p.Count = max(1, p.Count)
		list = append(list, p)
	}
	return list
}
