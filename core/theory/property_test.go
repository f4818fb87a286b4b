package theory_test

import (
	"testing"

	"pgregory.net/rapid"

	"arplin/core/theory"
)

var keys = []string{"C", "G", "D", "A", "E", "B", "F", "Bb", "Eb", "Ab", "Db", "F#"}

// What a chord is in a key does not depend on the key: transposed, it has the
// same degree, the same notes above its root, and comes back as it was.
func TestTransposingKeepsWhatAChordIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from, to := key(t, "from"), key(t, "to")
		root := from.Scale()[rapid.IntRange(0, 6).Draw(t, "root")]
		c := theory.MustChord(root.String() + rapid.SampledFrom([]string{"", "m", "7", "maj7", "m7", "sus4", "dim", "m7b5", "add9", "6"}).Draw(t, "suffix"))
		moved := c.Transpose(from, to)
		if from.Degree(c) != to.Degree(moved) {
			t.Fatalf("%s in %s is %s, %s in %s is %s", c, from, from.Degree(c), moved, to, to.Degree(moved))
		}
		if back := moved.Transpose(to, from); !back.Same(c) {
			t.Fatalf("%s from %s to %s and back is %s", c, from, to, back)
		}
		a, b := c.Degrees(), moved.Degrees()
		for i := range a {
			if a[i] != b[i] {
				t.Fatalf("%s has %v, %s has %v", c, a, moved, b)
			}
		}
	})
}

func key(t *rapid.T, label string) theory.Key {
	k, err := theory.ParseKey(rapid.SampledFrom(keys).Draw(t, label))
	if err != nil {
		t.Fatal(err)
	}
	return k
}

// The key of a song that is moved moves with it.
func TestTheKeyMovesWithTheSong(t *testing.T) {
	songs := []string{"C Am F G7 C", "C F G C", "Am Dm E7 Am", "G C D7 G", "F Dm Bb C7 F"}
	rapid.Check(t, func(t *rapid.T) {
		spans := spans(rapid.SampledFrom(songs).Draw(t, "song"))
		was := theory.FindKey(spans).Key
		by := rapid.IntRange(-5, 6).Draw(t, "semitones")
		to := was.Up(by)
		for i := range spans {
			spans[i].Chord = spans[i].Chord.Transpose(was, to)
		}
		if now := theory.FindKey(spans).Key; now.Minor != was.Minor || now.Tonic.Class() != to.Tonic.Class() {
			t.Fatalf("%s moved by %d is in %s, not in %s", was, by, now, to)
		}
	})
}

// A chord prints as it is read, and its colour comes off again.
func TestChordsPrintAsTheyAreRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k := key(t, "key")
		i := rapid.IntRange(0, 5).Draw(t, "degree")
		minor := ""
		if i == 1 || i == 2 || i == 5 {
			minor = "m"
		}
		c := theory.MustChord(k.Scale()[i].String() + minor)
		if again := theory.MustChord(c.String()); again != c {
			t.Fatalf("%s is read as %s", c, again)
		}
		coloured, ok := k.Colour(c)
		if !ok {
			t.Fatalf("%s has no colour in %s", c, k)
		}
		if plain, ok := coloured.Plain(); !ok || plain != c {
			t.Fatalf("%s is %s in colour and %s without", c, coloured, plain)
		}
	})
}
