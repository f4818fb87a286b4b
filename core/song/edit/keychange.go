package edit

import (
	"fmt"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
)

// Edits of what sounds and of how it is held.
type (
	// SetShape chooses the shape of a chord on an instrument, as it is fingered
	// there, in the whole song or in one bar; the zero grip takes the choice back.
	SetShape struct {
		Instrument fretboard.Instrument
		Chord      theory.Chord
		Grip       fretboard.Grip
		Bar        song.BarID // 0 for the whole song
	}
	// KeepRoot has the thumb keep to the root of a chord where a figure wants the low fifth.
	KeepRoot struct {
		Instrument fretboard.Instrument
		Chord      theory.Chord
		Keep       bool
	}
	// SetKey transposes the song. The capos, frets by instrument id, are those
	// of all instruments; those not named come off.
	SetKey struct {
		Key  theory.Key
		Capo map[string]int
	}
	// AddForm appends a form of 12 or 16 bars in the song's key.
	AddForm struct{ Bars int }
)

func (e SetShape) Apply(s *song.Song) (say.Line, error) {
	ins, chord, text := e.Instrument, e.Chord.String(), ""
	if e.Grip != (fretboard.Grip{}) {
		if text = e.Grip.String(); e.Grip.Strings() != ins.Strings() {
			return say.Line{}, fmt.Errorf("%s has %d strings, and %s has %d", e.Grip.Shape, e.Grip.Strings(), ins.Name, ins.Strings())
		}
	}
	if e.Bar == 0 {
		if s.Shapes.Set(ins.ID, chord, text); text == "" {
			return say.Of(shapeEasiest, chord, ins.Name), nil
		}
		return say.Of(shapeSet, chord, ins.Name, text), nil
	}
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if sec.Bars[at].Shapes.Set(ins.ID, chord, text); text == "" {
		return say.Of(shapeUsual, chord, ins.Name, at+1, sec.Name), nil
	}
	return say.Of(shapeInBar, chord, ins.Name, text, at+1, sec.Name), nil
}

func (e KeepRoot) Apply(s *song.Song) (say.Line, error) {
	if s.KeepRoot(e.Instrument, e.Chord.String(), e.Keep); e.Keep {
		return say.Of(rootKept, e.Chord, e.Instrument.Name), nil
	}
	return say.Of(rootFree, e.Chord, e.Instrument.Name), nil
}

func (e SetKey) Apply(s *song.Song) (say.Line, error) {
	capo := map[string]int{}
	for id, fret := range e.Capo {
		if _, err := fretboard.ByID(id); err != nil || fret < 0 || fret > song.MaxCapo {
			return say.Line{}, fmt.Errorf("a capo sits on fret 0 to %d of an instrument, not on %d of %q", song.MaxCapo, fret, id)
		}
		if fret > 0 {
			capo[id] = fret
		}
	}
	from := s.KeyGuess().Key
	if from.Minor != e.Key.Minor {
		return say.Line{}, fmt.Errorf("from %s the song can only go to another key of that kind", from)
	}
	s.Transpose(from, e.Key)
	s.Capo = capo
	return say.Of(keySet, e.Key), nil
}

// forms by degree, a bar each; common practice.
var forms = map[int][]string{
	12: strings.Fields("I I I I IV IV I I V IV I V"),
	16: strings.Fields("I I I I IV IV I I V V IV IV I I V I"),
}

func (e AddForm) Apply(s *song.Song) (say.Line, error) {
	degrees, ok := forms[e.Bars]
	if !ok {
		return say.Line{}, fmt.Errorf("a form has 12 or 16 bars, not %d", e.Bars)
	}
	key := s.KeyGuess().Key
	minor := ""
	if key.Minor {
		minor = "m"
	}
	roots := map[string]theory.Note{
		"I": key.Tonic, "IV": key.Tonic.Above(theory.Degree{Number: 4}), "V": key.Tonic.Above(theory.Degree{Number: 5}),
	}
	sec := song.Section{ID: song.SectionID(s.Fresh()), Name: fmt.Sprintf("%d-bar form", e.Bars)}
	for _, d := range degrees {
		symbol := roots[d].String() + minor
		if d == "V" {
			symbol = roots[d].String() + "7"
		}
		sec.Bars = append(sec.Bars, song.Bar{ID: song.BarID(s.Fresh()), Changes: []song.Change{{Symbol: symbol, Ticks: s.Meter.BarTicks()}}})
	}
	s.Sections = append(s.Sections, sec)
	return say.Of(formAdded, e.Bars), nil
}
