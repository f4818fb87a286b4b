package theory

import "slices"

// Transpose moves a chord from one key to another, keeping its degree, so that
// the spelling is right in the new key. The keys must share their mode; the
// mode is not looked at.
func (c Chord) Transpose(from, to Key) Chord {
	return Chord{
		Root:   from.move(c.Root, to),
		Bass:   from.move(c.Bass, to),
		Suffix: c.Suffix,
		tones:  c.tones,
	}
}

// move keeps the degree. A note of the new key is spelled as that key spells it, E#
// in F# major and Cb in Eb minor; one outside it by its usual name.
func (k Key) move(n Note, to Key) Note {
	moved := to.Tonic.Above(k.Tonic.DegreeOf(n))
	if slices.Contains(to.Scale(), moved) && moved.Alter >= -1 && moved.Alter <= 1 {
		return moved
	}
	return moved.simple()
}

// Up is the key the given number of semitones above, named as usual.
func (k Key) Up(semitones int) Key {
	if mod(semitones, 12) == 0 {
		return k
	}
	return UsualKey(k.Tonic.Class()+semitones, k.Minor)
}

// Fingered is the key whose shapes a player takes with the capo at a fret so
// that the sound is in k.
func (k Key) Fingered(capo int) Key { return k.Up(-capo) }

// Colour returns the chord with the seventh that its degree takes: I and IV the
// major, ii iii vi the minor, V the dominant seventh; in a minor key i iv v the
// minor, III and VI the major, VII and the major V the dominant. Only plain
// triads of the key are coloured.
func (k Key) Colour(c Chord) (Chord, bool) {
	if !c.Triad() || !k.diatonic(c) {
		return c, false
	}
	seventh := "7"
	root := mod(c.Root.Class()-k.Tonic.Class(), 12)
	switch {
	case c.Minor():
		seventh = "m7"
	case !k.Minor && root != 7, k.Minor && (root == 3 || root == 8):
		seventh = "maj7"
	}
	return c.withSuffix(seventh), true
}

// Plain is the triad under a chord's colours: Am7 becomes Am, G7 becomes G,
// and Fmaj7 becomes F. Chords without a plain major or minor triad stay.
func (c Chord) Plain() (Chord, bool) {
	if c.Triad() || !c.Has(5, 0) {
		return c, false
	}
	switch {
	case c.Has(3, 0):
		return c.withSuffix(""), true
	case c.Minor():
		return c.withSuffix("m"), true
	}
	return c, false
}

// Power is the chord without its third; ok is false for chords without a
// perfect fifth, or that are power chords already.
func (c Chord) Power() (Chord, bool) {
	if !c.Has(5, 0) || !c.tones.hasNumber(3) {
		return c, false
	}
	return Chord{Root: c.Root, Bass: c.Root}.withSuffix("5"), true
}

// OverRoot is the chord without its slash.
func (c Chord) OverRoot() Chord {
	c.Bass = c.Root
	return c
}
