package listen

import (
	"fmt"

	"arplin/core/bind"
	"arplin/core/practice/fault"
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
	Chord     string // before which it stops
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
	CannotTell []string // what could not be told: see TheStrings
	Cents      float64  // by which all of it is too high, where that is too far for its strings to be told
	places     []Place
	begins     float64
	asked      int   // the tempo
	silent     bool  // nothing was heard at all
	score      Score // as it was gone through
}

// Listen judges notes against a score, from the first that is asked for to the last that was heard. Notes without a pitch
// are judged by their moments.
func Listen(score Score, notes []Note) (h Hearing, err error) {
	h.score, h.asked, h.Tempo = score, score.Tempo, float64(score.Tempo)
	switch {
	case len(score.Strokes) == 0:
		return h, fmt.Errorf("there is nothing to play in this pattern")
	case len(notes) == 0:
		h.CannotTell = []string{ThePattern}
		h.silent = true
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
	if m.pitched && h.foreign() {
		bare := newMatcher(f.score, unpitched(notes), asked, c, f.swing)
		if list := bare.match(asked, end); made(list) >= foreignMade {
			h.CannotTell = append(h.CannotTell, TheStrings)
			m, h.Strokes = bare, list
		}
	}
	h.begins = c.at(0)
	h.measure(c, m, end)
	return h, nil
}

// What cannot be told.
const (
	TheStrings = "the strings"
	ThePattern = "the pattern"
)

// Where fewer strokes than half are those that are asked for, of every hand, but most moments are, it is another tuning, a
// capo, or somebody else plays as well.
const (
	fewForeign  = 6
	foreignPart = 0.5
	foreignMade = 0.8
)

// foreign reports strokes whose strings are not those that are asked for.
func (h *Hearing) foreign() bool {
	right, told := map[bind.Hand]int{}, map[bind.Hand]int{}
	for _, s := range h.Strokes {
		if s.Asked < 0 || len(h.score.Strokes[s.Asked].Sounds) > 2 {
			continue
		}
		told[s.By]++
		if s.State != Other && s.State != Missed {
			right[s.By]++
		}
	}
	all := 0
	for by, n := range told {
		if float64(right[by]) >= foreignPart*float64(n) {
			return false
		}
		all += n
	}
	return all >= fewForeign
}

// made is the part of what was asked for, and of what came too much, that is a stroke that was heard.
func made(list []Heard) float64 {
	found, all := 0, 0
	for _, s := range list {
		all++
		if s.Asked >= 0 && s.State != Missed {
			found++
		}
	}
	return float64(found) / float64(max(1, all))
}

// unpitched are the moments of notes.
func unpitched(notes []Note) (list []Note) {
	for i, n := range notes {
		if i > 0 && n.At-notes[i-1].At < 1 {
			continue
		}
		n.MIDI, n.Part = 0, 0
		list = append(list, n)
	}
	return list
}

// Begins is when the first beat that is asked for came, in milliseconds of the take.
func (h Hearing) Begins() float64 { return h.begins }

// Clean reports a take that was followed, with nothing in it that a teacher would name.
func (h Hearing) Clean() bool {
	return len(h.CannotTell) == 0 && len(h.Faults) == 0 && len(h.Again)+len(h.Left) == 0 &&
		20*(h.count(Missed)+h.count(Other)+h.count(Extra)) <= len(h.Strokes)
}

// Place is where a hand plays in the figure, and what became of it.
type Place struct {
	Bar, Slot        int     // of the figure, from 0
	At               float64 // ms from the beginning of its bar, as asked for
	By               bind.Hand
	Off              float64 // ms, where it usually came
	Of, Found, Other int     // rounds; in which it was heard; on another string
}

// Places are the places of the figure, in order.
func (h Hearing) Places() []Place { return h.places }

// Log is the two keys by which the first fault is logged; "" where there is none that a log has.
func (h Hearing) Log() string {
	for _, f := range h.Faults {
		logged := map[Kind]fault.Fault{
			IsEarly: fault.Rushed, IsLate: fault.Dragging, Stops: fault.Stopped, IsUneven: fault.Uneven,
			Slows: fault.Dragging, SpeedsUp: fault.Rushed, IsOther: fault.WrongBass, IsMissed: fault.MissedUp,
		}[f.Kind]
		for _, line := range fault.All {
			if line.Fault == logged && logged != "" {
				return line.Keys
			}
		}
	}
	return ""
}

// mostNotes bounds a take: half an hour of sixteenths in four voices.
const mostNotes = 60_000
