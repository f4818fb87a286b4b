package theory

import (
	"fmt"
	"strings"
)

// Letter is a note name without accidental, C to B as 0 to 6.
type Letter int8

const letterNames = "CDEFGAB"

// semitones above C of each letter.
var letterSemitones = [7]int{0, 2, 4, 5, 7, 9, 11}

// Note is a spelled note without octave: a letter and its accidentals.
// The zero value is C. F sharp and G flat are different notes of one class.
type Note struct {
	Letter Letter
	Alter  int8 // sharps above zero, flats below
}

// ParseNote reads a note such as "C", "F#", "Bb" or "E♭".
func ParseNote(s string) (Note, error) {
	n, rest, ok := cutNote(s)
	if !ok || rest != "" {
		return Note{}, fmt.Errorf("%q is not a note", s)
	}
	return n, nil
}

// MustNote is ParseNote for constants; it panics on a wrong name.
func MustNote(s string) Note {
	n, err := ParseNote(s)
	if err != nil {
		panic(err)
	}
	return n
}

// cutNote reads a note from the front of s: a capital letter and up to two
// accidentals of one kind.
func cutNote(s string) (n Note, rest string, ok bool) {
	if s == "" {
		return Note{}, s, false
	}
	i := strings.IndexByte(letterNames, s[0])
	if i < 0 {
		return Note{}, s, false
	}
	n.Letter, rest = Letter(i), s[1:]
	for range 2 {
		step, after, found := cutAccidental(rest)
		if !found || step*int(n.Alter) < 0 {
			break
		}
		n.Alter += int8(step)
		rest = after
	}
	return n, rest, true
}

// cutAccidental reads one sharp or flat sign from the front of s.
func cutAccidental(s string) (step int, rest string, ok bool) {
	for _, a := range []struct {
		sign string
		step int
	}{{"#", 1}, {"♯", 1}, {"b", -1}, {"♭", -1}} {
		if after, found := strings.CutPrefix(s, a.sign); found {
			return a.step, after, true
		}
	}
	return 0, s, false
}

// String prints the note with # and b.
func (n Note) String() string {
	return letterNames[n.Letter:n.Letter+1] + accidentals(int(n.Alter))
}

func accidentals(alter int) string {
	if alter < 0 {
		return strings.Repeat("b", -alter)
	}
	return strings.Repeat("#", alter)
}

// Class is the pitch class, semitones above C, 0 to 11.
func (n Note) Class() int {
	return mod(letterSemitones[n.Letter]+int(n.Alter), 12)
}

// Above returns the note that lies the given degree above n, spelled by letter:
// the b3 above E is G, the 3 above E is G#.
func (n Note) Above(d Degree) Note {
	letter := Letter(mod(int(n.Letter)+int(d.Number)-1, 7))
	plain := Note{Letter: letter}
	alter := mod(n.Class()+d.Semitones()-plain.Class()+6, 12) - 6
	return Note{Letter: letter, Alter: int8(alter)}
}

// DegreeOf returns the degree, 1 to 7, at which m lies above n.
func (n Note) DegreeOf(m Note) Degree {
	number := mod(int(m.Letter)-int(n.Letter), 7) + 1
	plain := Degree{Number: int8(number)}
	alter := mod(m.Class()-n.Class()-plain.Semitones()+6, 12) - 6
	return Degree{Number: int8(number), Alter: int8(alter)}
}

// simple returns the note respelled when its own spelling is one that musicians
// avoid as a root, with the accidental on the same side where there is one.
func (n Note) simple() Note {
	if !n.awkward() {
		return n
	}
	for letter := range Letter(7) {
		for _, alter := range []int8{0, -1, 1} {
			m := Note{letter, alter}
			if m.Class() == n.Class() && !m.awkward() && sign(alter)*sign(n.Alter) >= 0 {
				return m
			}
		}
	}
	return n
}

// awkward: double accidentals, E#, B#, Cb and Fb.
func (n Note) awkward() bool {
	switch n.String() {
	case "E#", "B#", "Cb", "Fb":
		return true
	}
	return n.Alter > 1 || n.Alter < -1
}

// Pitch is a spelled note in an octave; C4 is middle C.
type Pitch struct {
	Note
	Octave int8
}

// ParsePitch reads a pitch such as "E2" or "Bb3".
func ParsePitch(s string) (Pitch, error) {
	n, rest, ok := cutNote(s)
	var octave int8
	if ok {
		_, err := fmt.Sscanf(rest, "%d", &octave)
		ok = err == nil && fmt.Sprint(octave) == rest && octave >= -1 && octave <= 9
	}
	if !ok {
		return Pitch{}, fmt.Errorf("%q is not a pitch such as E2 or Bb3", s)
	}
	return Pitch{n, octave}, nil
}

// MustPitch is ParsePitch for constants.
func MustPitch(s string) Pitch {
	p, err := ParsePitch(s)
	if err != nil {
		panic(err)
	}
	return p
}

// String prints the pitch as "C3".
func (p Pitch) String() string { return fmt.Sprintf("%s%d", p.Note, p.Octave) }

// MIDI is the note number of the MIDI standard: 60 for C4.
func (p Pitch) MIDI() int {
	return 12*(int(p.Octave)+1) + letterSemitones[p.Letter] + int(p.Alter)
}

// PlainPitch spells a MIDI note number as it is spelled where no key says otherwise.
func PlainPitch(midi int) Pitch { return PitchOf(midi, PlainNote(midi)) }

// PitchOf spells a MIDI note number with the given note; the note's class must
// be the number's.
func PitchOf(midi int, n Note) Pitch {
	octave := (midi-int(n.Alter)-letterSemitones[n.Letter])/12 - 1
	return Pitch{n, int8(octave)}
}

// plainNotes spells the twelve classes as a tuner shows them.
var plainNotes = [12]Note{{0, 0}, {0, 1}, {1, 0}, {2, -1}, {2, 0}, {3, 0}, {3, 1}, {4, 0}, {4, 1}, {5, 0}, {6, -1}, {6, 0}}

// PlainNote is the usual spelling of a class where no chord says better.
func PlainNote(class int) Note { return plainNotes[mod(class, 12)] }

func mod(a, m int) int { return ((a % m) + m) % m }

func sign[T ~int8 | ~int](x T) int {
	switch {
	case x < 0:
		return -1
	case x > 0:
		return 1
	}
	return 0
}
