package theory

import (
	"cmp"
	"slices"
)

// Span is a chord and how long it lasts, in any one unit.
type Span struct {
	Chord  Chord
	Length int
}

// KeyGuess is a key with how clearly the chords point to it.
type KeyGuess struct {
	Key        Key
	Confidence float64 // 0 (as good as another key) to 1 (no other comes near)
}

// Weights of the evidence for a key, per unit of length or once. From memory of
// how a musician hears a key: the chords that belong, the chord it comes home
// to, the dominant that leads there.
const (
	weightDiatonic = 1.0
	weightBorrowed = 0.15
	weightOutside  = -0.6
	weightTonic    = 0.35 // for each unit on the tonic chord
	weightFirst    = 1.4
	weightLast     = 1.3
	weightCadence  = 1.0 // dominant to tonic
)

// FindKeys orders the 24 keys by how well the chords fit, the best first.
// No chords, no keys.
func FindKeys(spans []Span) []KeyGuess {
	if len(spans) == 0 {
		return nil
	}
	type scored struct {
		key   Key
		score float64
	}
	blues := isBlues(spans)
	var keys []scored
	for class := range 12 {
		for _, minor := range []bool{false, true} {
			k := Key{spellTonic(class, minor, spans), minor}
			keys = append(keys, scored{k, k.score(spans, blues)})
		}
	}
	slices.SortStableFunc(keys, func(a, b scored) int { return cmp.Compare(b.score, a.score) })
	guesses := make([]KeyGuess, len(keys))
	for i, k := range keys {
		rival := keys[0].score
		if i == 0 {
			rival = keys[1].score
		}
		guesses[i] = KeyGuess{Key: k.key}
		if k.score > 0 {
			guesses[i].Confidence = max(0, (k.score-rival)/k.score)
		}
	}
	return guesses
}

// FindKey is the best of FindKeys; without chords it is C major with no
// confidence.
func FindKey(spans []Span) KeyGuess {
	if guesses := FindKeys(spans); len(guesses) > 0 {
		return guesses[0]
	}
	return KeyGuess{}
}

// isBlues reports a song of dominant sevenths: every chord with a major third has
// one, on two roots or more. In that style they are the degrees I, IV and V
// themselves and lead nowhere. Source: common practice.
func isBlues(spans []Span) bool {
	roots := map[int]bool{}
	for _, s := range spans {
		if !s.Chord.Has(3, 0) {
			continue
		}
		if !s.Chord.Has(7, -1) {
			return false
		}
		roots[s.Chord.Root.Class()] = true
	}
	return len(roots) > 1
}

// ofBlues reports a dominant seventh on I, IV or V.
func (k Key) ofBlues(c Chord) bool {
	root := mod(c.Root.Class()-k.Tonic.Class(), 12)
	return !k.Minor && c.Has(3, 0) && c.Has(7, -1) && (root == 0 || root == 5 || root == 7)
}

func (k Key) score(spans []Span, blues bool) (score float64) {
	total := 0
	for _, s := range spans {
		total += s.Length
	}
	mean := float64(total) / float64(len(spans))
	weights := map[Chord]float64{} // a song has many bars and few chords
	for i, s := range spans {
		length := float64(s.Length) / mean
		weight, ok := weights[s.Chord]
		if !ok {
			weight = k.weight(s.Chord)
			if blues && k.ofBlues(s.Chord) {
				weight = weightDiatonic
			}
			weights[s.Chord] = weight
		}
		score += weight * length
		if !k.isTonic(s.Chord) {
			continue
		}
		home := weightTonic * length
		if i == 0 {
			home += weightFirst
		}
		if i == len(spans)-1 {
			home += weightLast
		}
		if i > 0 && k.isDominant(spans[i-1].Chord) {
			home += weightCadence
		}
		if !blues && s.Chord.Has(3, 0) && s.Chord.Has(7, -1) {
			home /= 2 // a dominant seventh is home in a blues only
		}
		score += home
	}
	return score
}

// weight is how well a chord fits the key, wherever it stands.
func (k Key) weight(c Chord) float64 {
	if k.diatonic(c) {
		return weightDiatonic
	}
	if k.parallel().diatonic(c) || k.bluesSeventh(c) {
		return weightBorrowed
	}
	if _, ok := k.secondaryTarget(c); ok {
		return weightBorrowed
	}
	return weightOutside
}

func (k Key) isTonic(c Chord) bool {
	return c.Root.Class() == k.Tonic.Class() && c.Minor() == k.Minor
}

func (k Key) isDominant(c Chord) bool {
	return mod(c.Root.Class()-k.Tonic.Class(), 12) == 7 && c.Has(3, 0)
}

// Usual names of the keys by the class of their tonic.
var (
	majorTonics = [12]string{"C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"}
	minorTonics = [12]string{"C", "C#", "D", "Eb", "E", "F", "F#", "G", "G#", "A", "Bb", "B"}
)

// UsualKey names the key on a pitch class as most music does.
func UsualKey(class int, minor bool) Key {
	if minor {
		return Key{MustNote(minorTonics[mod(class, 12)]), true}
	}
	return Key{MustNote(majorTonics[mod(class, 12)]), false}
}

// spellTonic prefers the spelling that the chords themselves use.
func spellTonic(class int, minor bool, spans []Span) Note {
	for _, s := range spans {
		if s.Chord.Root.Class() == class {
			return s.Chord.Root.simple()
		}
	}
	return UsualKey(class, minor).Tonic
}
