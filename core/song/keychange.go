package song

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// setShape reads "guitar F 133211", or "guitar F" to take the choice back.
func (s *Song) setShape(text string) (string, error) {
	fields := strings.Fields(text)
	if len(fields) < 2 || len(fields) > 3 {
		return "", fmt.Errorf("a choice names an instrument, a chord and frets")
	}
	ins, err := fretboard.ByID(fields[0])
	if err != nil {
		return "", err
	}
	c, err := theory.ParseChord(fields[1])
	if err != nil {
		return "", err
	}
	if len(fields) == 2 {
		delete(s.Shapes[ins.ID], c.String())
		return fmt.Sprintf("%s on %s has its easiest shape again", c, ins.Name), nil
	}
	sh, err := fretboard.ParseShape(fields[2])
	if err != nil {
		return "", err
	}
	if sh.Strings() != ins.Strings() {
		return "", fmt.Errorf("%s has %d strings, and %s has %d", sh, sh.Strings(), ins.Name, ins.Strings())
	}
	if s.Shapes[ins.ID] == nil {
		s.Shapes[ins.ID] = map[string]string{}
	}
	s.Shapes[ins.ID][c.String()] = sh.String()
	return fmt.Sprintf("%s on %s is %s", c, ins.Name, sh), nil
}

// setKey reads "G" or "G guitar:2 baritone:0": the key that sounds, and the
// capos, those not named coming off.
func (s *Song) setKey(text string) (string, error) {
	fields := strings.Fields(text)
	if len(fields) == 0 {
		return "", fmt.Errorf("name a key")
	}
	to, err := theory.ParseKey(fields[0])
	if err != nil {
		return "", err
	}
	capo := map[string]int{}
	for _, f := range fields[1:] {
		id, fret, _ := strings.Cut(f, ":")
		n, err := strconv.Atoi(fret)
		if _, known := fretboard.ByID(id); known != nil || err != nil || n < 0 || n > MaxCapo {
			return "", fmt.Errorf("%q is not a capo", f)
		}
		if n > 0 {
			capo[id] = n
		}
	}
	from := s.KeyGuess().Key
	if from.Minor != to.Minor {
		return "", fmt.Errorf("from %s the song can only go to another key of that kind", from)
	}
	s.transpose(from, to)
	s.Capo = capo
	return fmt.Sprintf("The song sounds in %s", to), nil
}

// transpose moves every chord and the sung range by the nearest way.
func (s *Song) transpose(from, to theory.Key) {
	for i := range s.Sections {
		for j := range s.Sections[i].Bars {
			for k, ch := range s.Sections[i].Bars[j].Changes {
				if c, err := ch.Chord(); err == nil {
					s.Sections[i].Bars[j].Changes[k].Symbol = c.Transpose(from, to).String()
				}
			}
		}
	}
	by := nearest(from, to)
	for _, note := range []*string{&s.Low, &s.High} {
		if p, err := theory.ParsePitch(*note); err == nil {
			midi := p.MIDI() + by
			*note = theory.PitchOf(midi, theory.PlainNote(midi)).String()
		}
	}
	s.Key = to.Symbol()
}

// nearest is the way from one tonic to another, -5 to +6 semitones.
func nearest(from, to theory.Key) int {
	by := (to.Tonic.Class() - from.Tonic.Class() + 12) % 12
	if by > 6 {
		by -= 12
	}
	return by
}

// forms by degree, a bar each; common practice.
var forms = map[string][]string{
	"12": strings.Fields("I I I I IV IV I I V IV I V"),
	"16": strings.Fields("I I I I IV IV I I V V IV IV I I V I"),
}

// addForm appends a 12-bar or 16-bar form in the song's key.
func (s *Song) addForm(text string) (string, error) {
	degrees, ok := forms[text]
	if !ok {
		return "", fmt.Errorf("%q is not a form: 12 or 16", text)
	}
	key := s.KeyGuess().Key
	minor := ""
	if key.Minor {
		minor = "m"
	}
	roots := map[string]theory.Note{
		"I": key.Tonic, "IV": key.Tonic.Above(theory.Degree{Number: 4}), "V": key.Tonic.Above(theory.Degree{Number: 5}),
	}
	sec := Section{Name: text + "-bar form"}
	for _, d := range degrees {
		symbol := roots[d].String() + minor
		if d == "V" {
			symbol = roots[d].String() + "7"
		}
		sec.Bars = append(sec.Bars, Bar{Changes: []Change{{symbol, s.Meter.BarTicks()}}})
	}
	s.Sections = append(s.Sections, sec)
	return "Added a " + text + "-bar form", nil
}
