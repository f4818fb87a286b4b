package sim

import (
	"math"
	"math/rand/v2"

	"arplin/core/plan"
	"arplin/core/practice"
)

// Law is how simulated learners learn. The planner knows none of them: it sees tries.
type Law string

// The laws.
const (
	Steady    Law = "steady"
	SlowStart Law = "slow starters"      // the first weeks bring little
	Forgetful Law = "fast forgetters"    // what is not played is lost three times as fast
	Irregular Law = "irregular practice" // every other day, and now and then a week of nothing
)

// Laws lists them.
var Laws = []Law{Steady, SlowStart, Forgetful, Irregular}

// Figures of the simulated learner. From memory: a usual step takes a week or two at a
// quarter of an hour a day.
const (
	gainAMinute  = 0.009 // of the goal, where nothing is known yet and the tempo is right
	ceiling      = 1.3   // of the goal: nobody gets faster than that on a step
	tooFast      = 1.12  // of the own tempo: beyond it the mistake is practised
	tooSlow      = 0.75
	fastGain     = 0.25 // of the gain where it is practised too fast
	slowGain     = 0.6
	talentSpread = 0.35 // of the logarithm
	newStep      = 0.28 // of the goal: by how much a step of eight usual days is too slow at first for who was safe below it
	longStep     = 0.6  // of the goal, at most
	skipped      = 0.9  // for each step that was left out
	carried      = 0.5  // of the gain, to each step below
	atOnce       = 2.5  // a level that most play at its goal as soon as they have understood it
	ahead        = 1.08 // of the goal: how fast they then are
	width        = 0.05 // of the tempo: how sharp the border of clean is
	slowWeeks    = 3
	slowPart     = 0.35
)

// learner is a simulated student. It has a tempo on each step, which practice raises and
// time takes away.
type learner struct {
	law    Law
	random *rand.Rand
	talent float64
	song   plan.Song
	tempo  []float64 // by step, 0 where it was never begun
	day    int
	gone   int // days of nothing still to come
}

// newLearner makes one of a seed; the same seed is the same learner.
func newLearner(law Law, seed, n uint64, sg plan.Song) *learner {
	l := &learner{law: law, random: rand.New(rand.NewPCG(seed, n)), song: sg, tempo: make([]float64, len(sg.Steps))}
	l.talent = math.Exp(talentSpread * l.random.NormFloat64())
	return l
}

// below is how safe what a step is built on is: 1 where every step under it that was
// given is at its goal. What was never given counts as what is under it, a little less.
func (l *learner) below(step int) float64 {
	safe := 1.0
	for k := range step {
		if l.tempo[k] > 0 {
			safe *= math.Min(1, l.tempo[k]/float64(l.song.Steps[k].Goal))
		} else {
			safe *= skipped
		}
	}
	return safe
}

// begin puts the learner on a step: what the steps below have given is the beginning.
func (l *learner) begin(step int) {
	if l.tempo[step] == 0 {
		s := l.song.Steps[step]
		if s.Level > 0 && s.Level <= atOnce { // a stroke a bar goes as soon as it is understood
			l.tempo[step] = float64(s.Goal) * ahead * math.Sqrt(l.talent) * l.below(step)
			return
		}
		l.tempo[step] = float64(s.Goal) * (1 - math.Min(longStep, newStep*float64(s.Usual)/8)) * l.below(step)
	}
}

// wake begins a day: what was not played fades, and it shows whether there is practice.
func (l *learner) wake() bool {
	l.day++
	chance, long := l.random.Float64(), l.random.Float64() // drawn on every day, whatever is taught
	forget := practice.Retained(1)
	if l.law == Forgetful {
		forget = math.Pow(forget, 3)
	}
	for k := range l.tempo {
		l.tempo[k] *= forget
	}
	if l.law != Irregular {
		return true
	}
	if l.gone > 0 {
		l.gone--
		return false
	}
	if long < 0.02 {
		l.gone = 7
	}
	return chance < 1.0/2
}

// minutes are those of a day that has practice: who skips days does more on others.
func (l *learner) minutes(usual int) int {
	if l.law == Irregular {
		return usual * 3 / 2
	}
	return usual
}

// practise is some minutes at a tempo on a step.
func (l *learner) practise(step, minutes, tempo int) {
	goal, own := float64(l.song.Steps[step].Goal), l.tempo[step]
	gain := gainAMinute * goal * l.talent * l.below(step) * float64(minutes) * math.Max(0, 1-own/(ceiling*goal))
	switch ratio := float64(tempo) / own; {
	case ratio > tooFast:
		gain *= fastGain
	case ratio < tooSlow:
		gain *= slowGain
	}
	if l.law == SlowStart && l.day <= 7*slowWeeks {
		gain *= slowPart
	}
	l.tempo[step] = own + gain
	for k := range step { // what a step is built on is played with it
		if l.tempo[k] > 0 {
			l.tempo[k] += carried * gain
		}
	}
}

// try plays at a tempo: clean, most often, where it is below the own one.
func (l *learner) try(step, tempo int) bool {
	chance := l.random.Float64()
	return chance < 1/(1+math.Exp((float64(tempo)-l.tempo[step])/(width*float64(tempo))))
}

// arrived reports the last step at its goal.
func (l *learner) arrived() bool {
	last := len(l.song.Steps) - 1
	return l.tempo[last] >= float64(l.song.Steps[last].Goal)
}
