package musicxml

import (
	"bytes"
	"cmp"
	"encoding/xml"
	"fmt"
	"slices"
	"strconv"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
)

const header = xml.Header + `<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" "http://www.musicxml.org/dtds/partwise.dtd">` + "\n"

// Write writes a piece: the tune, where it has one, and the tablature.
func Write(what played.Line) ([]byte, error) {
	p := piece{what}
	if want := len(p.Song.Bars()); len(p.Bars) != want {
		return nil, fmt.Errorf("musicxml: %d bars are played, and the song has %d", len(p.Bars), want)
	}
	s := scorePartwise{Version: "4.0", Title: p.Song.Title, Software: "Arplin"}
	if p.Song.HasMelody() {
		s.List = append(s.List, part{"P1", "Tune"})
		s.Parts = append(s.Parts, music{"P1", p.measures(tuneStaff)})
	}
	id := fmt.Sprintf("P%d", len(s.List)+1)
	s.List = append(s.List, part{id, p.Instrument.Name})
	s.Parts = append(s.Parts, music{id, p.measures(tabStaff)})
	var out bytes.Buffer
	out.WriteString(header)
	e := xml.NewEncoder(&out)
	e.Indent("", " ")
	if err := e.Encode(s); err != nil {
		return nil, fmt.Errorf("musicxml: %w", err)
	}
	out.WriteByte('\n')
	return out.Bytes(), nil
}

// piece is what is written.
type piece struct{ played.Line }

// staffOf is which staff is written.
type staffOf int

const (
	tuneStaff staffOf = iota
	tabStaff
)

// measures writes the bars of a staff. What is said of the whole song, chords, words, tempo,
// stands in the first part; frames are under the chords of the tablature.
func (p piece) measures(on staffOf) (list []measure) {
	first := on == tuneStaff || !p.Song.HasMelody()
	number, at := 1, 0
	var before pattern.Meter
	for s, sec := range p.Song.Sections {
		for b, bar := range sec.Bars {
			m := measure{Number: strconv.Itoa(number)}
			if bar.Role == song.Pickup && at == 0 {
				m.Number, m.Implicit = "0", "yes"
			} else {
				number++
			}
			if left := leftLine(sec, b); left != nil {
				m.Items = append(m.Items, *left)
			}
			if a := p.attributes(on, bar, at == 0, &before); a != nil {
				m.Items = append(m.Items, *a)
			}
			if first {
				m.Items = append(m.Items, p.directions(sec, bar, b == 0, s == 0 && b == 0)...)
			}
			w := staffWriter{ticks: bar.Ticks()}
			if first {
				w.harmonies = p.harmonies(bar, p.Bars[at])
			}
			if on == tuneStaff {
				w.notes = p.tune(sec, b)
			} else {
				w.notes = p.tab(bar, p.Bars[at])
			}
			m.Items = append(m.Items, w.write()...)
			if right := rightLine(p.Song, s, b); right != nil {
				m.Items = append(m.Items, *right)
			}
			list = append(list, m)
			at++
		}
	}
	return list
}

func (p piece) attributes(on staffOf, bar song.Bar, first bool, before *pattern.Meter) *attributes {
	now := p.Song.MeterOf(bar)
	if !first && now == *before {
		return nil
	}
	*before = now
	a := &attributes{Time: &meter{strconv.Itoa(int(now.Beats)), strconv.Itoa(int(now.Unit))}}
	if !first {
		return a
	}
	k := p.Song.KeyGuess().Key
	a.Divisions = pattern.TicksPerQuarter
	a.Key = &key{fifths(k), "major"}
	if k.Minor {
		a.Key.Mode = "minor"
	}
	a.Clef = &clef{"G", 2}
	if on == tabStaff {
		n := p.Instrument.Strings()
		a.Clef = &clef{"TAB", (n + 1) / 2}
		a.Staff = &staff{Lines: n, Capo: p.Capo}
		for i, open := range p.Instrument.Tuning { // the thickest is the lowest line
			a.Staff.Strings = append(a.Staff.Strings, tuning{i + 1, stepOf(open.Note), int(open.Alter), int(open.Octave)})
		}
	}
	return a
}

// fifths is how many sharps a key has, flats below zero.
func fifths(k theory.Key) int {
	n := [7]int{0, 2, 4, -1, 1, 3, 5}[k.Tonic.Letter] + 7*int(k.Tonic.Alter)
	if k.Minor {
		n -= 3
	}
	return n
}

func stepOf(n theory.Note) string { return theory.Note{Letter: n.Letter}.String() }

// directions are what stands over a bar: the name of a part, the tempo, the words.
func (p piece) directions(sec song.Section, bar song.Bar, begins, first bool) (list []any) {
	if begins && sec.Name != "" {
		list = append(list, direction{Placement: "above", Rehearsal: sec.Name})
	}
	if first {
		d := direction{Placement: "above", Metronome: &metronome{Unit: "quarter", PerMinute: strconv.Itoa(p.Song.Tempo)}, Sound: &soundTempo{float64(p.Song.Tempo)}}
		if p.Song.Meter.Compound() {
			d.Metronome.Dot, d.Sound.Tempo = &empty{}, 1.5*float64(p.Song.Tempo)
		}
		list = append(list, d)
		if p.Song.Swing {
			list = append(list, direction{Placement: "above", Words: swung})
		}
	}
	if bar.Words != "" {
		list = append(list, direction{Placement: "below", Words: bar.Words})
	}
	if says, ok := roleWords[bar.Role]; ok {
		list = append(list, direction{Placement: "above", Words: says})
	}
	return list
}

// swung says that eighths are swung.
const swung = "swung"

// roleWords say what is special about a bar, but for a pickup, which is a bar without a number.
var roleWords = map[song.Role]string{song.Intro: "intro", song.Short: "short bar", song.Stop: "stop", song.End: "end"}

// leftLine is what a bar begins with: a repeat, an ending.
func leftLine(sec song.Section, b int) *barline {
	l := barline{Location: "left"}
	if b == 0 && sec.Times > 1 {
		l.Style, l.Repeat = "heavy-light", &repeat{Direction: "forward"}
	}
	if n := sec.Bars[b].Ending; n > 0 && (b == 0 || sec.Bars[b-1].Ending != n) {
		l.Ending = &ending{strconv.Itoa(n), "start"}
	}
	if l.Repeat == nil && l.Ending == nil {
		return nil
	}
	return &l
}

// rightLine is what a bar ends with. Behind every ending but the last the part comes again.
func rightLine(sg song.Song, s, b int) *barline {
	sec := sg.Sections[s]
	l := barline{Location: "right"}
	n, last := sec.Bars[b].Ending, b == len(sec.Bars)-1
	if n > 0 && (last || sec.Bars[b+1].Ending != n) {
		l.Ending = &ending{strconv.Itoa(n), "stop"}
		if !last && sec.Bars[b+1].Ending > n {
			l.Style, l.Repeat = "light-heavy", &repeat{Direction: "backward"}
			if sec.Times > 2 {
				l.Repeat.Times = sec.Times
			}
		}
	}
	switch {
	case last && sec.Times > 1 && n == 0:
		l.Style, l.Repeat = "light-heavy", &repeat{Direction: "backward", Times: sec.Times}
	case last && s == len(sg.Sections)-1 && l.Repeat == nil:
		l.Style = "light-heavy"
	}
	if l.Style == "" && l.Ending == nil {
		return nil
	}
	return &l
}

// placedHarmony is a chord at a tick.
type placedHarmony struct {
	tick int
	harmony
}

func (p piece) harmonies(bar song.Bar, on played.Bar) (list []placedHarmony) {
	tick := 0
	for _, ch := range bar.Changes {
		h := placedHarmony{tick, harmonyOf(ch)}
		if i := slices.IndexFunc(on.Held, func(x played.Held) bool { return x.From == tick }); i >= 0 && h.Root != nil {
			h.Frame = frameOf(on.Held[i].Voicing)
		}
		list = append(list, h)
		tick += ch.Ticks
	}
	return list
}

// frameOf is a shape as a chord diagram.
func frameOf(v fretboard.Voicing) *frame {
	low, high := v.Span()
	f := &frame{Strings: v.Strings(), Frets: 4}
	if first := int(low); int(high) > 4 {
		f.First, f.Frets = first, max(4, int(high)-first+1)
	}
	for s := fretboard.String(1); int(s) <= v.Strings(); s++ {
		if v.Sounds(s) {
			f.Notes = append(f.Notes, frameNote{int(s), int(v.At(s)), int(v.Fingering.At(s))})
		}
	}
	return f
}

// placedNote is what is struck at a tick, with the notes of a chord together.
type placedNote struct {
	tick, ticks int
	notes       []note
}

// tune are the notes of the tune in a bar.
func (p piece) tune(sec song.Section, b int) (list []placedNote) {
	k := p.Song.KeyGuess().Key
	flat := fifths(k) < 0
	notes := sec.Bars[b].Melody
	for i, n := range notes {
		w := note{Pitch: pitchOf(spell(n.MIDI, flat)), Voice: "1", Notations: &notations{}}
		if n.Word != "" {
			w.Lyrics = []lyric{syllable(n.Word)}
		}
		if n.Mark == song.Tied {
			w.Ties, w.Notations.Tied = []tie{{"stop"}}, []tie{{"stop"}}
		}
		mark(&w, n.Mark, "stop")
		next, ok := after(sec, b, i)
		if ok && next.Mark == song.Tied {
			w.Ties, w.Notations.Tied = append(w.Ties, tie{"start"}), append(w.Notations.Tied, tie{"start"})
		} else if ok {
			mark(&w, next.Mark, "start")
		}
		if w.Notations.none() {
			w.Notations = nil
		}
		list = append(list, placedNote{n.Tick, n.Ticks, []note{w}})
	}
	return list
}

// after is the note that follows straight, over the bar line, too.
func after(sec song.Section, b, i int) (n song.MelodyNote, ok bool) {
	if notes := sec.Bars[b].Melody; i+1 < len(notes) {
		return notes[i+1], true
	}
	if b+1 < len(sec.Bars) && len(sec.Bars[b+1].Melody) > 0 {
		return sec.Bars[b+1].Melody[0], true
	}
	return n, false
}

func mark(w *note, m song.NoteMark, end string) {
	switch m {
	case song.Slid:
		w.Notations.Slides = append(w.Notations.Slides, spanner{end, 1})
	case song.Hammered:
		if w.Notations.Technical == nil {
			w.Notations.Technical = &technical{}
		}
		w.Notations.Technical.Hammers = append(w.Notations.Technical.Hammers, spanner{end, 1})
	}
}

func (n notations) none() bool {
	return len(n.Tied)+len(n.Slides) == 0 && n.Technical == nil && n.Arpeggio == nil && n.Accents == nil
}

// syllable is a word, or a part of one: "Lan-" goes on.
func syllable(word string) lyric {
	if cut := len(word) - 1; cut > 0 && word[cut] == '-' {
		return lyric{"begin", word[:cut]}
	}
	return lyric{"single", word}
}

var flatNotes = map[int]string{1: "Db", 3: "Eb", 6: "Gb", 8: "Ab", 10: "Bb"}
var sharpNotes = map[int]string{1: "C#", 3: "D#", 6: "F#", 8: "G#", 10: "A#"}

func spell(midi int, flat bool) theory.Pitch {
	names := sharpNotes
	if flat {
		names = flatNotes
	}
	if name, black := names[midi%12]; black {
		return theory.PitchOf(midi, theory.MustNote(name))
	}
	return theory.PlainPitch(midi)
}

func pitchOf(p theory.Pitch) *pitch { return &pitch{stepOf(p.Note), float64(p.Alter), int(p.Octave)} }

// tab are the strokes of a bar; what falls together is one chord of notes.
func (p piece) tab(bar song.Bar, on played.Bar) (list []placedNote) {
	for _, e := range on.Events {
		tick := e.Tick
		if tick < 0 || tick >= bar.Ticks() {
			continue
		}
		if n := len(list); n == 0 || list[n-1].tick != tick {
			list = append(list, placedNote{tick: tick})
		}
		at := &list[len(list)-1]
		at.notes = append(at.notes, p.stroke(e)...)
	}
	slices.SortStableFunc(list, func(a, b placedNote) int { return cmp.Compare(a.tick, b.tick) })
	for i := range list {
		end := bar.Ticks()
		if i+1 < len(list) {
			end = list[i+1].tick
		}
		list[i].ticks = end - list[i].tick
	}
	return list
}

// stroke is an event on its strings: right-hand fingers, the way of a strum, a cross for what is
// dead.
func (p piece) stroke(e played.Event) (list []note) {
	for i, s := range e.Strings {
		fret := int(e.Frets[i])
		t := &technical{String: int(s), Fret: &fret}
		w := note{Voice: "1", Notations: &notations{Technical: t}}
		sounding := p.Instrument.Open(s).MIDI() + fret + p.Capo
		w.Pitch = pitchOf(theory.PitchOf(sounding, theory.PlainNote(sounding)))
		if p.Capo == 0 && i < len(e.Pitches) {
			w.Pitch = pitchOf(e.Pitches[i])
		}
		switch e.Kind {
		case played.Pluck:
			t.Pluck = e.Finger
		case played.Chuck, played.Knock:
			w.Notehead = "x"
		}
		if e.Kind != played.Pluck {
			switch e.Direction {
			case "down":
				t.Down, w.Notations.Arpeggio = &empty{}, &arpeggio{"up"} // from the thick string: from low to high
			case "up":
				t.Up, w.Notations.Arpeggio = &empty{}, &arpeggio{"down"}
			}
			if len(e.Strings) == 1 {
				w.Notations.Arpeggio = nil
			}
		}
		if e.Accent {
			w.Notations.Accents = &accents{&empty{}}
		}
		list = append(list, w)
	}
	return list
}
