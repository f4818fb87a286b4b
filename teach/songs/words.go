package songs

import (
	"context"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern/catalogue"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/people"
)

// WordsSheet is a song as words with chords over them, for paper.
type WordsSheet struct {
	Song       store.Song
	Key        string
	Instrument fretboard.Instrument
	Capo       int
	Sections   []SectionView
	Density    int // 0 to 4: how small the type must be for one page
	Page       int // in a book
}

// wordsOnPage are how many bars a page of each density holds, a heading counted as two of them, with some
// room: a test prints them. Fewer have larger type.
var wordsOnPage = []int{28, 48, 72, 110}

// Words is a song as an instrument of a class fingers it.
func Words(sg store.Song, c people.Class, instrument string) WordsSheet {
	ins := c.Instrument(instrument)
	v := NewView(sg.Song, ins, c)
	v.Song = WithoutFigures(v.Song)
	w := WordsSheet{Song: sg, Key: sg.KeyGuess().Key.String(), Instrument: ins, Capo: sg.Capo[ins.ID], Sections: v.Sections(catalogue.Entry{}, sg.Song)}
	bars := len(sg.Bars()) + 2*len(sg.Sections)
	for w.Density < len(wordsOnPage) && bars > wordsOnPage[w.Density] {
		w.Density++
	}
	return w
}

// LoadWords is one of the teacher's songs so.
func (t *Room) LoadWords(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, instrument string) (WordsSheet, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return WordsSheet{}, err
	}
	return Words(sg, c, instrument), nil
}

// MostInBook is how many songs a book has.
const MostInBook = 60

// LoadBook is several songs in the order that is asked for, a page each after the list of contents.
func (t *Room) LoadBook(ctx context.Context, teacher ref.Teacher, c people.Class, ids []ref.Song, instrument string) (book []WordsSheet, err error) {
	all, err := t.Store.SongsOf(ctx, teacher, ids)
	if err != nil {
		return nil, err
	}
	for _, id := range ids {
		if sg, there := all[id]; there {
			w := Words(sg, c, instrument)
			w.Page = len(book) + 2
			book = append(book, w)
		}
	}
	return book, nil
}

// Fours are the bars of a part, four to a line.
func (s SectionView) Fours() (lines [][]BarView) {
	for bars := range slices.Chunk(s.Bars, 4) {
		lines = append(lines, bars)
	}
	return lines
}
