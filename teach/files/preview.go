package files

import (
	"fmt"
	"strings"

	"arplin/core/song"
	"arplin/format/chordpro"
)

// Preview is a sheet as it was understood, before it is saved.
type Preview struct {
	Sheet  chordpro.Sheet
	About  string // meter, tempo, key
	Parts  []PreviewPart
	Read   []ReadLine // lines that are neither bars nor words, and what they are
	CanAdd bool       // there are bars
	Bars   int
}

// PreviewPart is a section of it.
type PreviewPart struct {
	Name  string
	Times int
	Bars  []PreviewBar
}

// PreviewBar is a bar of it.
type PreviewBar struct {
	Number  int
	Chords  string
	Words   string
	Special string // "first time only", "3/4", "pickup"
	Notes   []string
	Unread  bool // a chord in it cannot be read
}

// ReadLine is a line of the sheet with what it was taken for.
type ReadLine struct {
	Number   int
	Text, As string
	Unread   bool
}

// PreviewSheet reads a sheet and lays out what was understood.
func PreviewSheet(text string, names chordpro.Names) Preview {
	sheet := chordpro.ReadSheet(text, names)
	p := Preview{Sheet: sheet, Bars: len(sheet.Song.Bars())}
	p.CanAdd = p.Bars > 0
	if p.CanAdd {
		p.About = aboutSheet(sheet)
	}
	n := 0
	for _, sec := range sheet.Song.Sections {
		part := PreviewPart{Name: sec.Name, Times: sec.Times}
		for _, b := range sec.Bars {
			n++
			bar := PreviewBar{Number: n, Chords: song.BarText(b.Changes, sheet.Song.MeterOf(b)), Words: b.Words, Special: specialOf(b), Notes: b.Notes}
			for _, ch := range b.Changes {
				if _, err := ch.Chord(); err != nil && !ch.Silent() {
					bar.Unread = true
				}
			}
			part.Bars = append(part.Bars, bar)
		}
		p.Parts = append(p.Parts, part)
	}
	for _, l := range sheet.Lines {
		switch l.As {
		case chordpro.AsBlank, chordpro.AsBars, chordpro.AsChords, chordpro.AsWords:
		default:
			p.Read = append(p.Read, ReadLine{l.Number, strings.TrimSpace(l.Text), string(l.As), l.As == chordpro.AsUnread})
		}
	}
	return p
}

func aboutSheet(sheet chordpro.Sheet) string {
	s := sheet.Song
	key := s.KeyGuess().Key.String()
	if s.Key == "" {
		key += ", from the chords"
	}
	about := fmt.Sprintf("%s · %d BPM · %s", s.Meter, s.Tempo, key)
	if sheet.Capo > 0 {
		about += fmt.Sprintf(" · capo %d on guitar: these are the sounding chords", sheet.Capo)
	}
	if sheet.German {
		about += " · German chord names"
	}
	return about
}

// specialOf is what is special about a bar, in words.
func specialOf(b song.Bar) string {
	var said []string
	if b.Ending > 0 {
		said = append(said, []string{"first", "second", "third"}[b.Ending-1]+" time only")
	}
	if b.Role != song.Plain {
		said = append(said, string(b.Role))
	}
	if b.Meter.Beats > 0 {
		said = append(said, b.Meter.String())
	}
	return strings.Join(said, ", ")
}
