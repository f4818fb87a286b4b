package files

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/format/midifile"
	"arplin/format/tabtext"
	"arplin/teach/answer"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// mostTabBars is how many bars of a MIDI file are written as tablature.
const mostTabBars = 16

// IsMIDI reports a MIDI file.
func IsMIDI(data []byte) bool { return bytes.HasPrefix(data, []byte("MThd")) }

// TabOfMIDI writes a MIDI file in which each string has a channel of its own as tablature, so that
// it is read as a figure: programs that know strings write such files, and Arplin does.
func TabOfMIDI(data []byte, c people.Class) (string, error) {
	f, err := midifile.Read(data)
	if err != nil {
		return "", answer.Refused(err)
	}
	m := pattern.Meter{Beats: 4, Unit: 4}
	if len(f.Meters) > 0 {
		if read, err := pattern.ParseMeter(fmt.Sprintf("%d/%d", f.Meters[0].Beats, f.Meters[0].Unit)); err == nil {
			m = read
		}
	}
	var notes []midifile.Note
	highest := 0
	for _, t := range f.Tracks {
		for _, n := range t.Notes {
			if n.Channel < fretboard.MaxStrings {
				notes, highest = append(notes, n), max(highest, n.Channel)
			}
		}
	}
	if highest < 3 {
		return "", answer.Refuse("a MIDI file becomes a pattern if each string has its own channel. For a melody, use Songs, Add a song")
	}
	ins, ok := fitting(notes, c)
	if !ok {
		return "", answer.Refuse("Arplin doesn’t know an instrument with these notes on its strings")
	}
	title := cmp.Or(f.Title, "Pattern")
	sg := song.Song{Title: title, Meter: m, Tempo: songs.UsualTempo, Sections: []song.Section{{Name: "Pattern"}}}
	p := played.Line{Instrument: ins}
	grid, at := gridFor(notes, f.Division, m)
	slot := m.BarTicks() / grid
	for _, n := range notes {
		place := at(n.Tick)
		bar := place / grid
		if bar >= mostTabBars {
			continue
		}
		for len(p.Bars) <= bar {
			p.Bars = append(p.Bars, played.Bar{Grid: grid})
			sg.Sections[0].Bars = append(sg.Sections[0].Bars, song.Bar{Changes: []song.Change{{Symbol: song.NoChord, Ticks: m.BarTicks()}}})
		}
		s := fretboard.String(n.Channel + 1)
		p.Bars[bar].Events = append(p.Bars[bar].Events, played.Event{Tick: place % grid * slot, Kind: played.Pluck, Strings: []fretboard.String{s}, Frets: []fretboard.Fret{fretboard.Fret(n.Key - ins.Open(s).MIDI())}})
	}
	p.Song, p.Fingered = sg, sg
	return tabtext.Write(p), nil
}

// fitting is the first instrument, of the class's before all others, on whose strings all notes can be fretted.
func fitting(notes []midifile.Note, c people.Class) (fretboard.Instrument, bool) {
	const frets = 15
	for _, ins := range append(c.Instruments(), fretboard.Instruments...) {
		if !slices.ContainsFunc(notes, func(n midifile.Note) bool {
			s := fretboard.String(n.Channel + 1)
			if int(s) > ins.Strings() {
				return true
			}
			fret := n.Key - ins.Open(s).MIDI()
			return fret < 0 || fret > frets
		}) {
			return ins, true
		}
	}
	return fretboard.Instrument{}, false
}

// gridFor is the coarsest grid, with eighths at least, near whose places all notes begin, and the place
// of a tick on it, counted from the beginning.
func gridFor(notes []midifile.Note, division int, m pattern.Meter) (grid int, at func(tick int) int) {
	grids := m.Grids()
	place := func(tick, n int) (place, off int) {
		ticks, slot := tick*pattern.TicksPerQuarter/division, m.BarTicks()/n
		place = (ticks + slot/2) / slot
		return place, abs(ticks - place*slot)
	}
	for _, n := range grids[min(1, len(grids)-1):] {
		if !slices.ContainsFunc(notes, func(x midifile.Note) bool { _, off := place(x.Tick, n); return off > pattern.TicksPerQuarter/14 }) {
			grid = n
			break
		}
	}
	if grid == 0 {
		grid = grids[len(grids)-1]
	}
	return grid, func(tick int) int { p, _ := place(tick, grid); return p }
}
