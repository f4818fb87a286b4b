package listen

import (
	"fmt"

	"arplin/core/bind"
)

// Kind is what is wrong with a take.
type Kind string

// The kinds. What early, late, missed, extra and other string are is said of strokes, too.
const (
	IsEarly    Kind = "early"
	IsLate     Kind = "late"
	IsMissed   Kind = "missed"
	IsExtra    Kind = "extra"
	IsOther    Kind = "other string"
	Stops      Kind = "stops" // before a chord
	Slows      Kind = "slows"
	SpeedsUp   Kind = "speeds up"
	IsUneven   Kind = "uneven" // in loudness
	IsSwung    Kind = "swung"
	IsStraight Kind = "straight" // where a swing is asked for
)

// Heard is a stroke as it was played.
type Heard struct {
	Asked  int // its place in the score; -1 for one too much
	Bar    int // of the take, from 0
	Slot   int
	By     bind.Hand
	At     float64 // of the take, in ms; 0 for what is missed
	Off    float64 // ms; early is negative; 0 for what is missed or too much
	State  State
	String string // the note that was hit instead, for another string
}

// Fault is what is wrong in most rounds.
type Fault struct {
	Kind      Kind
	Bar, Slot int     // of the figure, from 0; -1 where it is no single place
	MS        float64 // signed: early is negative
	Rounds    int     // in which it was so
	Of        int
	Says      string
}

// Hearing is a take against its score.
type Hearing struct {
	Tempo      float64 // as it was played, in the middle
	Drift      float64 // BPM from the beginning to the end
	Evenness   float64 // ms within which nine of ten strokes lie around where their place usually comes
	Again      []int   // bars that were played again, from 0
	Left       []int   // bars that were left out
	From       int     // the bar with which the take begins
	Strokes    []Heard
	Faults     []Fault
	CannotTell []string
	score      Score // as it was gone through
}

// Listen judges notes against a score, from the first that is asked for to the last that was heard. Notes without a pitch
// are judged by their moments.
func Listen(score Score, notes []Note) (h Hearing, err error) {
	h.score, h.Tempo = score, float64(score.Tempo)
	switch {
	case len(score.Strokes) == 0:
		return h, fmt.Errorf("there is nothing to play in this pattern")
	case len(notes) == 0:
		h.CannotTell = []string{"nothing was heard"}
		return h, nil
	case len(notes) > mostNotes:
		return h, fmt.Errorf("a take has at most %d notes, and this one %d", mostNotes, len(notes))
	}
	notes = inOrder(notes)
	heard := heardMoments(notes)
	f := follow(score, heard)
	h.score, h.Again, h.Left, h.From = f.score, f.again, f.left, f.from
	c := courseOf(f.score, f.asked, heard, f.pairs, notes[0].Onset > 0)
	end := 0.0
	if len(f.pairs) > 0 {
		end = f.asked[f.pairs[len(f.pairs)-1].asked].at
		h.Tempo, h.Drift = c.tempo(f.score, end/2), c.drift(f.score, end)
	}
	asked := f.score.asked(0)
	m := newMatcher(f.score, notes, asked, c, f.swing)
	h.Strokes = m.match(asked, end)
	h.measure(c, m, end)
	return h, nil
}

// mostNotes bounds a take: half an hour of sixteenths in four voices.
const mostNotes = 60_000
