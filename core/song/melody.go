package song

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/pattern"
	"arplin/core/theory"
)

// MelodyNote is a note of the tune in a bar.
type MelodyNote struct {
	Tick  int      `json:"t"` // from the bar line
	Ticks int      `json:"n"` // how long it lasts
	MIDI  int      `json:"m"` // as it sounds
	Mark  NoteMark `json:"k,omitempty"`
	Word  string   `json:"w,omitempty"` // the syllable that is sung on it
	// On is the string on which the teacher wants it, by instrument.
	On map[string]int `json:"on,omitempty"`
}

// NoteMark is how a note is reached.
type NoteMark string

// The marks; most notes are struck.
const (
	Struck   NoteMark = ""
	Tied     NoteMark = "tie"    // goes on from the note before, at the same pitch
	Slid     NoteMark = "slide"  // the finger slides to it from the note before, on one string
	Hammered NoteMark = "hammer" // a finger comes down for it, on the string that sounds
)

// markSigns are how the marks are written.
var markSigns = []struct {
	sign string
	mark NoteMark
}{{"~", Tied}, {"/", Slid}, {"^", Hammered}}

// emptyBar is a bar without a note.
const emptyBar = "."

// MaxMelodyNotes bounds what one bar holds.
const MaxMelodyNotes = 32

// Lowest and highest note of a tune: those of the instruments and of voices.
const LowestNote, HighestNote = 28, 96 // E1 to C7

// ParseMelody reads bars of notes between bar lines: "E4:1 G4 A4:2 | r:1 ~A4:1/2 /G4 | …". A
// note has a pitch, whose octave may be left out for the nearest to the note before, and after
// a colon how many beats it lasts; without that it lasts as long as the one before. r is a
// rest, a dot a bar without a note; ~ goes on from the note before, / slides to it, ^ hammers it on; what follows = is the
// syllable that is sung. The beat is so many ticks; ticks says how long each bar is, counted
// from 0.
func ParseMelody(text string, beat int, ticks func(bar int) int) ([][]MelodyNote, error) {
	text = strings.TrimSuffix(strings.TrimPrefix(strings.TrimSpace(text), "|"), "|")
	if strings.TrimSpace(text) == "" {
		return nil, nil
	}
	r := melodyReader{beat: beat, length: beat}
	var bars [][]MelodyNote
	for i, bar := range strings.Split(text, "|") {
		notes, err := r.bar(bar, ticks(i))
		if err != nil {
			return nil, fmt.Errorf("melody: bar %d%w", i+1, err)
		}
		bars = append(bars, notes)
	}
	return bars, nil
}

// melodyReader remembers the note before.
type melodyReader struct {
	beat, length int
	before       int // its MIDI number; 0 for none
	sounds       bool
}

// unit is what lengths are counted in.
func (r *melodyReader) unit() string {
	if r.beat < pattern.TicksPerQuarter {
		return "eighths"
	}
	return "beats"
}

func (r *melodyReader) bar(text string, ticks int) (notes []MelodyNote, err error) {
	at := 0
	fields := strings.Fields(text)
	if len(fields) > MaxMelodyNotes {
		return nil, fmt.Errorf(": a bar holds at most %d notes", MaxMelodyNotes)
	}
	if len(fields) == 1 && fields[0] == emptyBar {
		r.sounds = false
		return nil, nil
	}
	for i, f := range fields {
		n, rest, err := r.note(f)
		if err != nil {
			return nil, fmt.Errorf(", note %d: %w", i+1, err)
		}
		n.Tick = at
		if at += n.Ticks; ticks > 0 && at > ticks {
			return nil, fmt.Errorf(" has %s %s and more, and there is room for %s", beats(at, r.beat), r.unit(), beats(ticks, r.beat))
		}
		if r.sounds = !rest; !rest {
			notes = append(notes, n)
			r.before = n.MIDI
		}
	}
	return notes, nil
}

func (r *melodyReader) note(f string) (n MelodyNote, rest bool, err error) {
	text, word, _ := strings.Cut(f, "=")
	if n.Word = word; strings.ContainsAny(word, "{}") {
		return n, false, fmt.Errorf("%q: a syllable has no brackets", f)
	}
	for _, m := range markSigns {
		if cut, ok := strings.CutPrefix(text, m.sign); ok {
			text, n.Mark = cut, m.mark
			break
		}
	}
	pitch, length, written := strings.Cut(text, ":")
	if written {
		if r.length, err = r.ticks(length); err != nil {
			return n, false, err
		}
	}
	n.Ticks = r.length
	if strings.EqualFold(pitch, "r") {
		return n, true, nil
	}
	if n.MIDI, err = ReadPitch(pitch, r.before); err != nil {
		return n, false, err
	}
	switch {
	case n.Mark != Struck && !r.sounds:
		return n, false, fmt.Errorf("%q has no note before it to come from", f)
	case n.Mark == Tied && n.MIDI != r.before:
		return n, false, fmt.Errorf("%q goes on from %s, which is another pitch", f, theory.PlainPitch(r.before))
	}
	return n, false, nil
}

// signs are sharps and flats as music is set.
var signs = strings.NewReplacer("♯", "#", "♭", "b")

// ReadPitch reads a note with or without its octave, which is then that nearest to the note before;
// 0 for none.
func ReadPitch(typed string, noteBefore int) (int, error) {
	text := signs.Replace(typed)
	if text != "" && text[0] >= 'a' && text[0] <= 'g' {
		text = strings.ToUpper(text[:1]) + text[1:]
	}
	if p, err := theory.ParsePitch(text); err == nil {
		midi := p.MIDI()
		if midi < LowestNote || midi > HighestNote {
			return 0, fmt.Errorf("%s is beyond what is played or sung here, %s to %s", text, theory.PlainPitch(LowestNote), theory.PlainPitch(HighestNote))
		}
		return midi, nil
	}
	n, err := theory.ParseNote(text)
	if err != nil {
		return 0, fmt.Errorf("%q is not a note", typed)
	}
	near := noteBefore
	if near == 0 {
		near = theory.MustPitch("E4").MIDI()
	}
	midi := near + (n.Class()-near%12+18)%12 - 6 // within half an octave
	if midi < LowestNote || midi > HighestNote {
		return 0, fmt.Errorf("%s is beyond what is played or sung here", text)
	}
	return midi, nil
}

// ticks reads beats: 1, 0.5, 1/2, 1.5.
func (r *melodyReader) ticks(text string) (int, error) {
	value, err := strconv.ParseFloat(text, 64)
	if above, below, fraction := strings.Cut(text, "/"); fraction {
		a, errA := strconv.Atoi(above)
		b, errB := strconv.Atoi(below)
		if err = nil; errA != nil || errB != nil || b == 0 {
			return 0, fmt.Errorf("%q is not a number of beats", text)
		}
		value = float64(a) / float64(b)
	}
	ticks := int(value*float64(r.beat) + 0.5)
	if err != nil || ticks <= 0 || value > 64 {
		return 0, fmt.Errorf("%q is not a number of beats", text)
	}
	return ticks, nil
}

// beats writes ticks as beats, a part of one as a fraction.
func beats(ticks, beat int) string {
	divisor, rest := ticks, beat
	for rest != 0 {
		divisor, rest = rest, divisor%rest
	}
	if divisor == beat {
		return strconv.Itoa(ticks / beat)
	}
	return fmt.Sprintf("%d/%d", ticks/divisor, beat/divisor)
}

// MelodyText writes bars so that ParseMelody reads them: pitches with octaves, rests where
// nothing sounds.
func MelodyText(bars []Bar, beat int) string {
	last := -1
	for i, b := range bars {
		if len(b.Melody) > 0 {
			last = i
		}
	}
	var text []string
	for _, b := range bars[:last+1] {
		var notes []string
		at := 0
		for _, n := range b.Melody {
			if n.Tick > at {
				notes = append(notes, "r:"+beats(n.Tick-at, beat))
			}
			sign := ""
			for _, m := range markSigns {
				if m.mark == n.Mark {
					sign = m.sign
				}
			}
			word := ""
			if n.Word != "" {
				word = "=" + n.Word
			}
			notes = append(notes, sign+theory.PlainPitch(n.MIDI).String()+":"+beats(n.Ticks, beat)+word)
			at = n.Tick + n.Ticks
		}
		if len(notes) == 0 {
			notes = []string{emptyBar}
		}
		text = append(text, strings.Join(notes, " "))
	}
	return strings.Join(text, " | ")
}

// HasMelody reports a song that has a tune.
func (s Song) HasMelody() bool {
	for _, b := range s.Bars() {
		if len(b.Melody) > 0 {
			return true
		}
	}
	return false
}

// SungRange is the range that somebody has said, or else that of the tune; ok is false where
// there is neither.
func (s Song) SungRange() (low, high theory.Pitch, ok bool) {
	low, errLow := theory.ParsePitch(s.Low)
	high, errHigh := theory.ParsePitch(s.High)
	if errLow == nil && errHigh == nil {
		return low, high, true
	}
	lowest, highest := 0, 0
	for _, b := range s.Bars() {
		for _, n := range b.Melody {
			if lowest == 0 || n.MIDI < lowest {
				lowest = n.MIDI
			}
			highest = max(highest, n.MIDI)
		}
	}
	return theory.PlainPitch(lowest), theory.PlainPitch(highest), lowest > 0
}
