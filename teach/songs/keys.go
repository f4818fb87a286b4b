package songs

import (
	"context"
	"fmt"
	"strings"

	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/song/keys"
	"arplin/core/theory"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Keys compares the twelve keys of a song for a whole class.
type Keys struct {
	Song  store.Song
	Key   theory.Key
	Heads []string // instruments with their number of players
	Rows  []KeyRow
	Voice keys.Range
	Sung  string // the range of the song as it is typed, "A3 D5"
}

// KeyRow is one of the keys.
type KeyRow struct {
	keys.KeyRow
	Lines  []KeyLine
	Chosen bool // the key and the capos of now
	Sings  string
}

// KeyLine is an instrument in a key.
type KeyLine struct {
	keys.KeyLine
	Chords string
	Width  int // of a hundred, of the hardest line in the table
}

// LoadKeys computes the table.
func (t *Room) LoadKeys(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song) (Keys, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Keys{}, err
	}
	return answer.Keep(t.From, "keys", answer.RowsOf(sg.ID, sg.Version, c.Class, c.Students), func() Keys {
		page := Keys{Song: sg, Key: sg.KeyGuess().Key, Voice: c.Voice(), Sung: strings.TrimSpace(sg.Low + " " + sg.High)}
		class := c.Players()
		for _, p := range class {
			page.Heads = append(page.Heads, fmt.Sprintf("%s (%d)", p.Instrument.Name, p.Count))
		}
		rows, most := keys.KeyTable(sg.Song, class, page.Voice), 0.0
		for _, r := range rows {
			for _, l := range r.Lines {
				most = max(most, l.Effort)
			}
		}
		for _, r := range rows {
			page.Rows = append(page.Rows, keyRowOf(r, sg.Song, page.Key, most))
		}
		return page
	}), nil
}

func keyRowOf(r keys.KeyRow, sg song.Song, now theory.Key, most float64) KeyRow {
	row := KeyRow{KeyRow: r, Chosen: r.Key.Tonic.Class() == now.Tonic.Class()}
	for _, l := range r.Lines {
		var chords []string
		for _, ch := range l.Chords {
			chords = append(chords, ch.String())
		}
		row.Lines = append(row.Lines, KeyLine{l, strings.Join(chords, " "), 5 * int(20*l.Effort/max(most, 1)+0.5)})
		row.Chosen = row.Chosen && sg.Capo[l.Instrument.ID] == l.Capo
	}
	switch {
	case r.Sung == nil:
	case r.Outside == 0:
		row.Sings = fmt.Sprintf("%s to %s", r.Sung.Low, r.Sung.High)
	default:
		row.Sings = fmt.Sprintf("%s to %s, %s outside", r.Sung.Low, r.Sung.High, say.Count(r.Outside, "semitone", "semitones"))
	}
	return row
}
