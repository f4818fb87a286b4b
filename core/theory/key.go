package theory

import (
	"fmt"
	"strings"
)

// Key is a tonic with a major or minor scale. The zero value is C major.
type Key struct {
	Tonic Note
	Minor bool
}

// ParseKey reads "C major", "A minor", "Am", "F#m", "Bb".
func ParseKey(s string) (Key, error) {
	n, rest, ok := cutNote(strings.TrimSpace(s))
	if ok {
		switch strings.ToLower(strings.TrimSpace(rest)) {
		case "", "major", "maj":
			return Key{Tonic: n}, nil
		case "m", "minor", "min":
			return Key{Tonic: n, Minor: true}, nil
		}
	}
	return Key{}, fmt.Errorf("%q is not a key such as C major or F#m", s)
}

// String prints the key as "C major".
func (k Key) String() string {
	if k.Minor {
		return k.Tonic.String() + " minor"
	}
	return k.Tonic.String() + " major"
}

// Symbol prints the key as a chord sheet does: "C", "Am".
func (k Key) Symbol() string {
	if k.Minor {
		return k.Tonic.String() + "m"
	}
	return k.Tonic.String()
}

var (
	majorScale = [7]Degree{{1, 0}, {2, 0}, {3, 0}, {4, 0}, {5, 0}, {6, 0}, {7, 0}}
	minorScale = [7]Degree{{1, 0}, {2, 0}, {3, -1}, {4, 0}, {5, 0}, {6, -1}, {7, -1}}
)

func (k Key) scale() [7]Degree {
	if k.Minor {
		return minorScale
	}
	return majorScale
}

// Scale lists the seven notes of the key, the natural minor for a minor key.
func (k Key) Scale() []Note {
	var ns []Note
	for _, d := range k.scale() {
		ns = append(ns, k.Tonic.Above(d))
	}
	return ns
}

// in reports whether a pitch class belongs to the key's scale.
func (k Key) in(class int) bool {
	for _, d := range k.scale() {
		if mod(k.Tonic.Class()+d.Semitones(), 12) == class {
			return true
		}
	}
	return false
}

// Role says how a chord belongs to a key.
type Role string

// The roles, from the closest to the most distant.
const (
	Diatonic  Role = "in the key"
	Secondary Role = "leads to another degree"
	Borrowed  Role = "borrowed from the parallel key"
	Chromatic Role = "outside the key"
)

// Reading is what a chord does in a key.
type Reading struct {
	Numeral string // "vi", "V7", "bVII", "V7/ii"
	Role    Role
}

var numerals = [7]string{"I", "II", "III", "IV", "V", "VI", "VII"}

// Read names the degree of a chord in the key. Small numerals are minor and
// diminished chords. In a minor key the degrees count along the natural minor
// scale, so that F in A minor is VI.
func (k Key) Read(c Chord) Reading {
	numeral := k.numeral(c)
	switch {
	case k.diatonic(c):
		return Reading{numeral, Diatonic}
	case k.parallel().diatonic(c) || k.bluesSeventh(c):
		return Reading{numeral, Borrowed}
	}
	if target, ok := k.secondaryTarget(c); ok {
		return Reading{"V" + numeralSuffix(c) + "/" + target, Secondary}
	}
	return Reading{numeral, Chromatic}
}

// Degree is the numeral alone.
func (k Key) Degree(c Chord) string { return k.Read(c).Numeral }

func (k Key) parallel() Key { return Key{k.Tonic, !k.Minor} }

// numeral is the chord's root as a degree of the key with the chord's quality. A
// root of the scale is that degree however it is spelled: F for E sharp in F
// sharp major is vii.
func (k Key) numeral(c Chord) string {
	d := k.Tonic.DegreeOf(c.Root)
	for _, own := range k.scale() {
		if own.Class() == d.Class() {
			d = own
		}
	}
	alter := int(d.Alter - k.scale()[d.Number-1].Alter)
	n := numerals[d.Number-1]
	if c.Minor() {
		n = strings.ToLower(n)
	}
	return accidentals(alter) + n + numeralSuffix(c)
}

// numeralSuffix is the chord's suffix without the minor that the small numeral
// already says.
func numeralSuffix(c Chord) string {
	switch {
	case c.tones == tones("1 b3 b5"):
		return "°"
	case c.tones == tones("1 b3 b5 bb7"):
		return "°7"
	case c.tones == tones("1 b3 b5 b7"):
		return "ø7"
	case c.tones == tones("1 3 #5"):
		return "+"
	}
	s := c.Suffix
	if c.Minor() {
		for _, word := range []string{"min", "mi", "m", "-"} {
			if after, ok := strings.CutPrefix(s, word); ok {
				return after
			}
		}
		return s
	}
	for _, word := range []string{"maj", "Maj", "M"} {
		if s == word {
			return ""
		}
	}
	return s
}

// diatonic reports whether every note of the chord lies in the key. In a minor
// key the fifth degree may be major and the raised seventh diminished, as the
// harmonic minor has them.
func (k Key) diatonic(c Chord) bool {
	inScale := true
	for d := range c.tones.all() {
		inScale = inScale && k.in(mod(c.Root.Class()+d.Semitones(), 12))
	}
	if inScale || !k.Minor {
		return inScale
	}
	root := mod(c.Root.Class()-k.Tonic.Class(), 12)
	leading := root == 7 && c.Has(3, 0) || root == 11 && c.Has(5, -1)
	if !leading {
		return false
	}
	for d := range c.tones.all() {
		class := mod(root+d.Semitones(), 12)
		if class != 11 && !k.in(mod(k.Tonic.Class()+class, 12)) {
			return false
		}
	}
	return true
}

// bluesSeventh: I7 and IV7 take their seventh from the blues, and in a form
// with them nothing else is meant.
func (k Key) bluesSeventh(c Chord) bool {
	root := mod(c.Root.Class()-k.Tonic.Class(), 12)
	return c.Has(3, 0) && c.Has(7, -1) && (root == 0 || root == 5)
}

// secondaryTarget finds the degree to which a major chord a fifth above it leads.
func (k Key) secondaryTarget(c Chord) (string, bool) {
	if !c.Has(3, 0) || !c.Has(5, 0) || c.tones.hasNumber(7) && !c.Has(7, -1) {
		return "", false
	}
	target := c.Root.Above(Degree{Number: 4})
	for i, d := range k.scale() {
		if i == 0 || k.Tonic.Above(d).Class() != target.Class() {
			continue
		}
		triad := k.triadOn(i)
		if triad.Has(5, -1) {
			return "", false // nothing comes to rest on a diminished chord
		}
		return k.numeral(triad), true
	}
	return "", false
}

// triadOn builds the scale's own triad on its i-th note.
func (k Key) triadOn(i int) Chord {
	scale := k.Scale()
	root := scale[i]
	third, fifth := root.DegreeOf(scale[(i+2)%7]), root.DegreeOf(scale[(i+4)%7])
	suffix := ""
	switch {
	case fifth.Alter < 0:
		suffix = "dim"
	case third.Alter < 0:
		suffix = "m"
	}
	return Chord{Root: root, Bass: root}.withSuffix(suffix)
}

// To is the nearest way from one tonic to another, -5 to +6 semitones.
func (k Key) To(other Key) int {
	by := (other.Tonic.Class() - k.Tonic.Class() + 12) % 12
	if by > 6 {
		by -= 12
	}
	return by
}
