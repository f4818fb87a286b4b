package theory

import (
	"fmt"
	"strings"
)

// Chord is a chord symbol that has been understood. Comparable: two chords are
// equal when they are written alike after sign and blank clean-up; use Same to
// compare what sounds.
type Chord struct {
	Root   Note
	Bass   Note   // the note after the slash, else the root
	Suffix string // what stands between root and slash, "m7b5"
	tones  toneSet
}

// ChordError says which part of a chord symbol is not known.
type ChordError struct {
	Symbol string
	Offset int    // bytes from the start of the symbol
	Reason string // a clause: `"q" is not known here`
}

func (e *ChordError) Error() string {
	return fmt.Sprintf("chord %q, character %d: %s", e.Symbol, len([]rune(e.Symbol[:e.Offset]))+1, e.Reason)
}

var plainSigns = strings.NewReplacer("♭", "b", "♯", "#")

// ParseChord reads a chord symbol as musicians write it: "C", "F#m7", "Bb/D",
// "Gm7b5", "C°7", "Aø", "E-7", "DΔ", "G7sus4", "C6/9", "Fm(maj7)". What it does
// not know is an error with its place, never a guess.
func ParseChord(s string) (Chord, error) {
	symbol := strings.TrimSpace(s)
	if symbol == "" {
		return Chord{}, &ChordError{symbol, 0, "a chord begins with a note from A to G"}
	}
	root, rest, ok := cutNote(symbol)
	if !ok {
		return Chord{}, &ChordError{symbol, 0, fmt.Sprintf("%q is not a note from A to G", firstRune(symbol))}
	}
	c := Chord{Root: root, Bass: root}
	body := rest
	if i := strings.LastIndexByte(rest, '/'); i >= 0 {
		if bass, after, ok := cutNote(strings.TrimSpace(rest[i+1:])); ok && after == "" {
			c.Bass, body = bass, rest[:i]
		} else if i == len(rest)-1 {
			return Chord{}, &ChordError{symbol, len(symbol) - 1, "the bass note after the slash is missing"}
		}
	}
	blank := len(body) - len(strings.TrimLeft(body, " "))
	tones, offset, reason := readSuffix(body[blank:])
	if reason != "" {
		return Chord{}, &ChordError{symbol, len(symbol) - len(rest) + blank + offset, reason}
	}
	c.Suffix = plainSigns.Replace(strings.TrimSpace(body))
	if strings.HasPrefix(c.Suffix, "b") || strings.HasPrefix(c.Suffix, "#") {
		c.Suffix = "(" + c.Suffix + ")" // "A b9" is not A flat with a ninth
	}
	c.tones = tones
	return c, nil
}

// MustChord is ParseChord for constants.
func MustChord(s string) Chord {
	c, err := ParseChord(s)
	if err != nil {
		panic(err)
	}
	return c
}

// String prints the symbol: root, suffix and, where it differs, the bass.
func (c Chord) String() string {
	s := c.Root.String() + c.Suffix
	if c.Bass != c.Root {
		s += "/" + c.Bass.String()
	}
	return s
}

// IsZero reports whether c is no chord at all.
func (c Chord) IsZero() bool { return c.tones == 0 }

// Degrees lists what the chord is made of, above its root, in rising order.
func (c Chord) Degrees() []Degree {
	var ds []Degree
	for d := range c.tones.all() {
		ds = append(ds, d)
	}
	return ds
}

// Notes lists the chord's notes, spelled, root first.
func (c Chord) Notes() []Note {
	var ns []Note
	for d := range c.tones.all() {
		ns = append(ns, c.Root.Above(d))
	}
	return ns
}

// Has reports whether the chord contains the degree.
func (c Chord) Has(number, alter int8) bool { return c.tones.has(Degree{number, alter}) }

// Fifth is the chord's fifth, lowered or raised where the chord says so; a
// chord without one answers with the perfect fifth.
func (c Chord) Fifth() Degree {
	for d := range c.tones.all() {
		if d.Number == 5 {
			return d
		}
	}
	return Degree{Number: 5}
}

// LeftOut lists what the chord's stack of thirds holds and its players usually
// leave out: the third under an eleventh, the ninth and eleventh under a
// thirteenth.
func (c Chord) LeftOut() []Degree {
	var out []Degree
	if c.tones.hasNumber(11) && c.tones.hasNumber(7) && !c.tones.hasNumber(3) && !c.tones.hasNumber(4) {
		out = append(out, Degree{Number: 3})
	}
	if c.tones.hasNumber(13) && c.tones.hasNumber(7) {
		for _, n := range []int8{9, 11} {
			if !c.tones.hasNumber(n) {
				out = append(out, Degree{Number: n})
			}
		}
	}
	return out
}

// Minor reports a minor third.
func (c Chord) Minor() bool { return c.tones.has(Degree{3, -1}) }

// Triad reports whether the chord is a plain major or minor triad over its root.
func (c Chord) Triad() bool {
	return c.tones == majorTriad || c.tones == minorTriad
}

// Spell names a pitch class as the chord would: its own notes in their spelling,
// others plainly.
func (c Chord) Spell(class int) Note {
	for d := range c.tones.all() {
		if n := c.Root.Above(d); n.Class() == class {
			return n
		}
	}
	if c.Bass.Class() == class {
		return c.Bass
	}
	return PlainNote(class)
}

// Same reports whether two chords sound the same notes over the same bass.
func (c Chord) Same(o Chord) bool {
	return c.Root.Class() == o.Root.Class() && c.Bass.Class() == o.Bass.Class() && c.tones == o.tones
}

// withSuffix returns the chord with another quality over the same root and bass.
func (c Chord) withSuffix(suffix string) Chord {
	tones, _, reason := readSuffix(suffix)
	if reason != "" {
		panic("theory: suffix table holds " + suffix)
	}
	return Chord{Root: c.Root, Bass: c.Bass, Suffix: suffix, tones: tones}
}
