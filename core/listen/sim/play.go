package sim

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"arplin/core/bind"
	"arplin/core/listen"
)

// How people scatter, from memory: the time of a stroke, and its loudness.
const (
	scatterMS = 6.0
	scatterDB = 1.0
)

// Note is one string as it was struck.
type Note struct {
	At     float64 // milliseconds from the first beat that was asked for
	MIDI   int
	String int // 0 where it is none
	Kind   bind.SoundKind
	By     bind.Hand
	Loud   float64 // 0 to 1
}

// Struck is what became of a stroke that was asked for, or one too much.
type Struck struct {
	Asked  int     // its place in the score; -1 for one too much
	At     float64 // milliseconds; 0 for one that was left out
	State  listen.State
	String int // what was hit in place of another, as MIDI
}

// Take is what was played, and the truth about it.
type Take struct {
	Notes []Note // in the order in which they sound
	Truth []Struck
}

// Play plays a score with faults.
func Play(score listen.Score, f Faults, seed uint64) (t Take) {
	rng := rand.New(rand.NewPCG(seed, 31))
	waited := 0.0
	twice := -1
	if f.BarTwice && score.Bars > 2 {
		twice = score.Bars / 2
	}
	again := map[int]bool{}
	for i := 0; i < len(score.Strokes); i++ {
		st := score.Strokes[i]
		if twice >= 0 && st.Bar == twice+1 && !again[twice] { // back to the beginning of the bar before
			again[twice] = true
			waited += score.BarMS()
			for i > 0 && score.Strokes[i-1].Bar == twice {
				i--
			}
			st = score.Strokes[i]
		}
		if st.Into != "" {
			waited += max(f.Stop[st.Into], f.Stop["*"])
		}
		at := st.At
		if f.Swung && st.Offbeat {
			if score.Figure.Swing {
				at -= score.BeatMS() / 6 // straight, where a swing is asked for
			} else {
				at += score.BeatMS() / 6
			}
		}
		at = slowed(score, f, at) + waited
		if st.Offbeat && !f.Swung {
			at -= f.Rush
		}
		if st.By == bind.ByThumb {
			at += f.LateThumb
		}
		at += scatterMS * rng.NormFloat64()
		if rng.Float64() < f.Missed[st.Finger] {
			t.Truth = append(t.Truth, Struck{Asked: i, State: listen.Missed})
			continue
		}
		struck := Struck{Asked: i, At: at, State: listen.StateOf(at - st.At - waited)}
		loud := math.Pow(10, (scatterDB+f.Uneven)*rng.NormFloat64()/20)
		wrong := st.By == bind.ByThumb && rng.Float64() < f.WrongString
		for _, snd := range st.Sounds {
			n := Note{At: at + snd.Late, MIDI: snd.MIDI, String: int(snd.String), Kind: snd.Kind, By: snd.By, Loud: min(1, snd.Loud*loud)}
			if wrong && len(st.Sounds) == 1 {
				if other, there := anotherString(st, snd.MIDI, rng); there {
					n.MIDI, n.String = other.MIDI, int(other.String)
					struck.State, struck.String = listen.Other, other.MIDI
				}
			}
			t.Notes = append(t.Notes, n)
		}
		t.Truth = append(t.Truth, struck)
		if rng.Float64() < f.Extra {
			if n, there := between(score, i, at, rng); there {
				t.Notes = append(t.Notes, n)
				t.Truth = append(t.Truth, Struck{Asked: -1, At: n.At, State: listen.Extra})
			}
		}
	}
	slices.SortStableFunc(t.Notes, func(a, b Note) int { return cmp.Compare(a.At, b.At) })
	return t
}

// slowed is when something comes while the tempo falls evenly over the take.
func slowed(score listen.Score, f Faults, at float64) float64 {
	if f.Slowing == 0 {
		return at
	}
	whole := score.BarMS() * float64(score.Bars)
	from, to := float64(score.Tempo), math.Max(10, float64(score.Tempo)-f.Slowing)
	// The tempo falls evenly along the score: time is the integral of its reciprocal.
	x := at / whole
	if to >= from {
		return at
	}
	return whole * from / (to - from) * math.Log(1+(to-from)/from*x)
}

// anotherString is another string of the shape.
func anotherString(st listen.Stroke, midi int, rng *rand.Rand) (listen.Pitch, bool) {
	others := slices.DeleteFunc(slices.Clone(st.Shape), func(p listen.Pitch) bool { return p.MIDI == midi })
	if len(others) == 0 {
		return listen.Pitch{}, false
	}
	slices.SortFunc(others, func(a, b listen.Pitch) int { return abs(a.MIDI-midi) - abs(b.MIDI-midi) }) // a neighbour, mostly
	return others[rng.IntN(min(2, len(others)))], true
}

// between is a stroke too much, halfway to the next.
func between(score listen.Score, i int, at float64, rng *rand.Rand) (Note, bool) {
	st := score.Strokes[i]
	next := st.At + score.BeatMS()
	for _, s := range score.Strokes[i+1:] {
		if s.At > st.At {
			next = s.At
			break
		}
	}
	if gap := next - st.At; gap < 200 || len(st.Shape) == 0 {
		return Note{}, false
	} else {
		p := st.Shape[rng.IntN(len(st.Shape))]
		return Note{At: at + gap/2, MIDI: p.MIDI, String: int(p.String), Kind: st.Sounds[0].Kind, By: st.By, Loud: 0.6}, true
	}
}

func abs(n int) int {
	if n < 0 {
		return -n
	}
	return n
}

// Seconds is how long a take is, to its last note.
func (t Take) Seconds() float64 {
	if len(t.Notes) == 0 {
		return 0
	}
	return max(0, t.Notes[len(t.Notes)-1].At) / 1000
}
