package files

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/format/tabtext"
	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/patterns"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// TabFigure is a figure that was read from tablature.
type TabFigure struct {
	Pattern     pattern.Pattern
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument // with as many strings
	Bars        []TabBar
	Level       string
	Hear        string   // its notation, for the player
	Over        string   // the chords that were read, a bar each
	Unused      []string // what of the text was not used, with its line
	Text        string
	Capo        int    // as the tablature says: the chords that were read are fingered above it
	Chosen      string // the meter, where the teacher chose it
	shapes      map[string]string
}

// TabBar is a bar of it, as it was read.
type TabBar struct {
	Number   int
	Line     int
	Chord    string
	Frets    string
	Shape    draw.SVG
	Strip    draw.SVG
	How      string // how its places were found
	Notation string // of the bar by itself
}

// meterOf is the meter that a teacher chooses, or that is written over a tablature, or counted under it.
func meterOf(tab tabtext.Tab, chosen string) pattern.Meter {
	if m, err := pattern.ParseMeter(chosen); err == nil {
		return m
	}
	if tab.Meter != (pattern.Meter{}) {
		return tab.Meter
	}
	if m, ok := tab.Counted(); ok {
		return m
	}
	return pattern.Meter{Beats: 4, Unit: 4}
}

// Meters are those that a tablature can be read in.
func (f TabFigure) Meters() []pattern.Meter { return pattern.Meters }

// ReadTab reads tablature as a figure: what is struck becomes strokes with the fingers of the class's
// school, each bar on the shape that its frets show. Bars that are played alike are one bar of the
// figure.
func ReadTab(text string, c people.Class, instrument, meter string) (TabFigure, error) {
	tab, err := tabtext.Read(text)
	if err != nil {
		return TabFigure{}, answer.Refused(err)
	}
	out := TabFigure{Unused: tab.Left, Text: text, shapes: map[string]string{}}
	if out.Instruments = withStrings(c, tab.Strings); len(out.Instruments) == 0 {
		return out, answer.Refuse("Arplin doesn’t know an instrument with %d strings", tab.Strings)
	}
	if out.Instrument, err = tunedAs(out.Instruments, tab); err != nil {
		return out, err
	}
	if !slices.ContainsFunc(out.Instruments, func(ins fretboard.Instrument) bool { return ins.ID == out.Instrument.ID }) {
		out.Instruments = append([]fretboard.Instrument{out.Instrument}, out.Instruments...)
	}
	if out.Capo = tab.Capo; out.Capo > song.MaxCapo {
		out.Capo, out.Unused = 0, append(out.Unused, fmt.Sprintf("the capo on fret %d is left out", tab.Capo))
	}
	for _, ins := range out.Instruments {
		if ins.ID == instrument {
			out.Instrument = ins
		}
	}
	m := meterOf(tab, meter)
	if meter == m.String() {
		out.Chosen = meter
	}
	grid := 0
	for _, b := range tab.Bars {
		n, _, _ := b.Slots(m)
		grid = max(grid, n)
	}
	var figures []pattern.Pattern
	var chords []string
	before := ""
	for i, b := range tab.Bars {
		read, figure, problem := out.bar(b, m, grid, c.School(), i+1)
		if problem != "" {
			out.Unused = append(out.Unused, problem)
		}
		if figure.Count() == 0 {
			out.Unused = append(out.Unused, fmt.Sprintf("bar %d: nothing is played in it", i+1))
			continue
		}
		if read.Chord == "" {
			read.Chord = cmp.Or(before, song.NoChord)
		}
		before = read.Chord
		figures, chords = append(figures, figure), append(chords, read.Chord)
		out.Bars = append(out.Bars, read)
	}
	if len(figures) == 0 {
		return out, answer.Refuse("there’s nothing to play in this tablature")
	}
	out.Pattern = shortest(figures)
	out.Hear, out.Over = out.Pattern.String(), strings.Join(chords, " | ")
	if bars, err := song.ParseChords(out.Over, m); err == nil {
		sg := song.Song{Meter: m, Tempo: songs.UsualTempo, Sections: []song.Section{{Bars: bars}}, Shapes: song.Shapes{out.Instrument.ID: out.shapes}}
		out.Level = patterns.Tenth(difficulty.LevelOf(difficulty.NewTask(out.Pattern, sg, out.Instrument, c.School(), songs.UsualTempo), c.Weigh()))
	}
	return out, nil
}

// withStrings are the instruments of the class with so many strings, then all others.
func withStrings(c people.Class, n int) (list []fretboard.Instrument) {
	for _, ins := range append(c.Instruments(), fretboard.Instruments...) {
		if ins.Strings() == n && !slices.ContainsFunc(list, func(o fretboard.Instrument) bool { return o.ID == ins.ID }) {
			list = append(list, ins)
		}
	}
	return list
}

// bassGuitar are the strings of a bass, the thinnest first.
var bassGuitar = []string{"G", "D", "A", "E"}

// tunedAs is the instrument whose strings have the names that stand over the tablature or before its
// lines; one of a tuning of its own where no known one has them; the first where there are none.
func tunedAs(list []fretboard.Instrument, tab tabtext.Tab) (fretboard.Instrument, error) {
	names := slices.Clone(tab.Labels) // the thinnest first
	if len(tab.Tuning) == tab.Strings {
		names = slices.Clone(tab.Tuning)
		slices.Reverse(names)
	}
	for i := range names {
		names[i] = strings.TrimRight(strings.NewReplacer("♯", "#", "♭", "b").Replace(names[i]), "0123456789")
	}
	if len(names) != tab.Strings || slices.Contains(names, "") {
		return list[0], nil
	}
	for _, ins := range list {
		same := true
		for i := range ins.Tuning {
			open := ins.Tuning[len(ins.Tuning)-1-i].Note.String()
			same = same && strings.EqualFold(names[i], open)
		}
		if same {
			return ins, nil
		}
	}
	if slices.EqualFunc(names, bassGuitar, strings.EqualFold) {
		return list[0], answer.Refuse("this is for a bass guitar (%s), and Arplin has guitars and ukuleles", strings.Join(bassGuitar, " "))
	}
	var tuning []theory.Pitch
	for i := range list[0].Tuning { // each string as near to the usual one as its name allows
		usual := list[0].Tuning[i]
		name := names[len(names)-1-i]
		best, found := theory.Pitch{}, false
		for octave := 1; octave <= 6; octave++ {
			p, err := theory.ParsePitch(strings.ToUpper(name[:1]) + name[1:] + strconv.Itoa(octave))
			if err == nil && (!found || abs(p.MIDI()-usual.MIDI()) < abs(best.MIDI()-usual.MIDI())) {
				best, found = p, true
			}
		}
		if !found {
			return list[0], nil
		}
		tuning = append(tuning, best)
	}
	return fretboard.Custom(tuning), nil
}

// bar reads one bar: its shape by the frets that are struck, its chord by what stands over it or
// else by its notes.
func (f *TabFigure) bar(b tabtext.Bar, m pattern.Meter, grid int, school bind.School, number int) (read TabBar, figure pattern.Pattern, problem string) {
	own, slots, how := b.Slots(m)
	frets := make([]fretboard.Fret, f.Instrument.Strings())
	for i := range frets {
		frets[i] = fretboard.Muted
	}
	var moves []string
	for _, h := range b.Hits {
		at := len(frets) - int(h.String)
		switch {
		case h.Fret < 0:
		case frets[at] == fretboard.Muted:
			frets[at] = fretboard.Fret(h.Fret)
		case frets[at] != fretboard.Fret(h.Fret):
			moves = append(moves, fmt.Sprintf("string %d goes to fret %d", h.String, h.Fret))
		}
	}
	sh, err := fretboard.NewShape(frets...)
	if err != nil {
		return read, figure, fmt.Sprintf("bar %d: %v", number, err)
	}
	c, named := chordOf(f.Instrument, sh, b.Chord())
	read = TabBar{Number: number, Line: b.Line, Frets: sh.String(), How: how}
	if named {
		read.Chord = c.String()
		whole, usual := completed(f.Instrument, c, sh)
		if sh, read.Frets = whole, whole.String(); !usual {
			f.shapes[read.Chord] = sh.String()
		}
	} else {
		c = theory.MustChord("C") // the strings are numbered then, whatever the chord
		problem = fmt.Sprintf("bar %d: no chord has just the notes of %s, so the one before carries on", number, sh)
	}
	if len(moves) > 0 {
		problem = fmt.Sprintf("bar %d: %s, so the pattern keeps the first fret", number, strings.Join(slices.Compact(moves), ", "))
	}
	struck := make([]bind.Struck, grid)
	for i, hits := range slots {
		at := &struck[i*grid/own]
		for _, h := range hits {
			if h.Tied || h.Fret < 0 {
				continue
			}
			if !slices.Contains(at.Strings, h.String) {
				at.Strings = append(at.Strings, h.String)
			}
			if h.Way != "" && len(hits) > 1 {
				at.Direction = h.Way
			}
		}
	}
	figure = bind.Unbind(f.Instrument, school, m, [][]bind.Struck{struck}, c, sh)
	read.Notation = figure.String()
	v := fretboard.Read(f.Instrument, c, sh)
	read.Shape = draw.Shape{Instrument: f.Instrument, Chord: c, Voicing: v}.SVG()
	st := draw.OnShape(f.Instrument, school, figure, c, sh)
	st.Label = fmt.Sprintf("bar %d: %s", number, figure)
	read.Strip = st.SVG()
	return read, figure, problem
}

// completed is the usual shape of a chord where the frets that were struck are in it: the hand holds
// more than a figure strikes. usual reports that it is.
func completed(ins fretboard.Instrument, c theory.Chord, sh fretboard.Shape) (whole fretboard.Shape, usual bool) {
	v, ok := fretboard.Easiest(ins, c)
	for s := fretboard.String(1); ok && int(s) <= sh.Strings(); s++ {
		ok = !sh.Sounds(s) || v.At(s) == sh.At(s)
	}
	if ok {
		return v.Shape, true
	}
	return sh, false
}

// chordOf names a shape: by what stands over the bar, else the chord that has just its notes, its
// bass first.
func chordOf(ins fretboard.Instrument, sh fretboard.Shape, over string) (theory.Chord, bool) {
	if c, err := theory.ParseChord(over); err == nil {
		return c, true
	}
	sounds := map[int]bool{}
	lowest, bass := 128, 0
	for s := fretboard.String(1); int(s) <= sh.Strings(); s++ {
		if sh.Sounds(s) {
			midi := ins.Open(s).MIDI() + int(sh.At(s))
			sounds[midi%12] = true
			if midi < lowest {
				lowest, bass = midi, midi%12
			}
		}
	}
	for i := range 12 {
		root := theory.PlainNote(bass + i)
		if !sounds[root.Class()] {
			continue
		}
		if name, ok := theory.Named(theory.MustChord(root.String()), sounds); ok {
			c, err := theory.ParseChord(name)
			return c, err == nil
		}
	}
	return theory.Chord{}, false
}

// shortest is the figure without the bars that only come again.
func shortest(bars []pattern.Pattern) pattern.Pattern {
	for n := 1; n <= len(bars); n++ {
		same := n <= pattern.MaxBars
		for i := n; i < len(bars) && same; i++ {
			same = bars[i].Equal(bars[i%n])
		}
		if same {
			return joinedBars(bars[:n])
		}
	}
	return joinedBars(bars[:min(len(bars), pattern.MaxBars)])
}

func joinedBars(bars []pattern.Pattern) pattern.Pattern {
	p := pattern.Pattern{Meter: bars[0].Meter}
	for _, b := range bars {
		p.Bars = append(p.Bars, b.Bars...)
	}
	return p
}

// Song is the song of the chords that were read, with the figure on it.
func (f TabFigure) Song(title string) (song.Song, error) {
	bars, err := song.ParseChords(f.Over, f.Pattern.Meter)
	if err != nil {
		return song.Song{}, answer.Refused(err)
	}
	sec := song.Section{Name: "Verse", Bars: bars, Pattern: f.Pattern.String(), PatternName: letters.Cut(title, song.MaxPatternName)}
	sg := song.Song{Title: title, Meter: f.Pattern.Meter, Tempo: songs.UsualTempo, Sections: []song.Section{sec}}
	if len(f.shapes) > 0 {
		sg.Shapes = song.Shapes{f.Instrument.ID: f.shapes}
	}
	if f.Capo > 0 { // what sounds is higher
		from := sg.KeyGuess().Key
		for i := range bars {
			for k := range bars[i].Changes {
				if ch, err := bars[i].Changes[k].Chord(); err == nil {
					bars[i].Changes[k].Symbol = ch.Transpose(from, from.Up(f.Capo)).String()
				}
			}
		}
		sg.Capo = map[string]int{f.Instrument.ID: f.Capo}
	}
	return sg.Numbered(), nil
}

// KeepTab is what is made of a figure that was read.
type KeepTab struct {
	Title  string
	Ladder bool // with a ladder for the class
}

// Keep stores the figure as a pattern, or as a song of its chords with the figure on it and its ladder.
// It returns where to go.
func (t *Room) KeepTab(ctx context.Context, teacher ref.Teacher, c people.Class, f TabFigure, keep KeepTab) (path string, err error) {
	title := letters.Cut(strings.Join(strings.Fields(keep.Title), " "), song.MaxPatternName)
	if title == "" {
		return "", answer.Refuse("give it a name first")
	}
	p, err := pattern.Parse(f.Pattern.String())
	if err != nil {
		return "", answer.Refused(err)
	}
	if !keep.Ladder {
		id, err := t.Store.AddPattern(ctx, teacher, title, p)
		return fmt.Sprintf("/patterns/%s%d", patterns.OwnPrefix, id), err
	}
	sg, err := f.Song(title)
	if err != nil {
		return "", err
	}
	id, err := t.Store.AddSong(ctx, teacher, sg)
	if err != nil {
		return "", err
	}
	made, err := t.Ladders.Make(ctx, teacher, c, ladders.NewLadder{Song: id, Instrument: f.Instrument.ID})
	return fmt.Sprintf("/ladders/%d", made), err
}
