package listen

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"arplin/core/pattern"
	"arplin/core/say"
)

// State is how a tap was.
type State string

// The states.
const (
	OnTime State = "on time"
	Early  State = "early"
	Late   State = "late"
	Missed State = "missed"
	Extra  State = "extra"
	Other  State = "other string"
)

// OnTimeMS is how far off, either way, is on time.
const OnTimeMS = onTime

// What is heard as together, and what is taken for one tap. From memory: listeners tell two clicks apart
// from some 20 ms on, and taps of steady players scatter by 10 to 30 ms.
const (
	onTime  = 30.0  // ms, either way
	widest  = 240.0 // ms: further off, a tap belongs to something else
	leftOut = 150.0 // ms: what a missed or an extra tap costs against one that is off
	startAt = 150.0 // ms: a take that begins further off began at another moment
	rounds  = 2     // as often at least, and more often than not, is a habit
)

// Judged is a tap as it was: one that was due, or one too much.
type Judged struct {
	Bar   int // of the take, from 0
	Slot  int
	With  Hand
	Off   float64 // ms; early is negative; 0 for what is missed or too much
	State State
}

// Habit is what happens at a place each time, or most times.
type Habit struct {
	Bar   int // of the figure, from 0
	Slot  int
	Off   float64 // ms, the middle one; 0 where the tap is missed
	State State
}

// Judgement is a take against its timeline.
type Judgement struct {
	Strokes  []Judged
	Habits   []Habit
	Evenness float64 // ms within which nine of ten taps lie around where that place usually comes
	Drift    float64 // ms a bar: positive slows down
	Off      float64 // ms by which all of it is early or late, where it is
	line     Timeline
	pace     float64
	lost     bool // no pattern was found in it
}

// Judge aligns taps with a timeline and judges them. The take is as long as its last tap says. A take
// that begins at another moment, or goes faster or slower all along, is followed; it is said.
func Judge(line Timeline, taps []Tap) (Judgement, error) {
	j := Judgement{line: line, pace: 1}
	if len(taps) == 0 {
		return j, fmt.Errorf("there are no taps in it")
	}
	if len(line.Bars(len(line.Figure.Bars))) == 0 {
		return j, fmt.Errorf("there is nothing to tap in this pattern")
	}
	taps = slices.Clone(taps)
	slices.SortStableFunc(taps, func(a, b Tap) int { return cmp.Compare(a.At, b.At) })
	if length := (taps[len(taps)-1].At - min(0, taps[0].At)) / line.BarMS(); length > maxBars {
		return j, fmt.Errorf("a take has at most %d bars, and this one %.0f", maxBars, math.Ceil(length))
	}
	shift := 0.0
	j.pace, shift = line.follow(taps)
	for i := range taps {
		taps[i].At = (taps[i].At - shift) / j.pace
	}
	last := taps[len(taps)-1].At
	due := line.Bars(max(1, int(math.Ceil((last+widest)/line.BarMS()))))
	due = slices.DeleteFunc(due, func(d Due) bool { return d.At > last+onTime }) // what comes after the last tap was not to come any more
	for _, hand := range []Hand{Thumb, Fingers} {
		j.match(due, taps, hand)
	}
	slices.SortStableFunc(j.Strokes, func(a, b Judged) int {
		return cmp.Or(cmp.Compare(a.Bar, b.Bar), cmp.Compare(a.Slot, b.Slot), -cmp.Compare(string(a.With), string(b.With)))
	})
	j.measure()
	return j, nil
}

// maxBars bounds a take.
const maxBars = 512

// follow finds how a take lies on the timeline: by how much it is slower (1.02 is two per cent), and
// when it begins. What is asked for is kept where it does as well.
func (t Timeline) follow(taps []Tap) (pace, shift float64) {
	head := taps[:min(len(taps), 48)]
	asked := t.Bars(len(t.Figure.Bars))
	shifts := []float64{0}
	for _, tap := range head[:min(len(head), 3)] {
		for _, d := range asked {
			if d.With == tap.With {
				shifts = append(shifts, tap.At-d.At)
			}
		}
	}
	best := math.Inf(1)
	for _, s := range shifts {
		for percent := -12; percent <= 12; percent++ {
			p := 1 + float64(percent)/100
			// another pace, and another beginning, need a reason
			cost := t.apart(head, p, s) + float64(len(head))*(2*math.Abs(float64(percent))+8*min(1, math.Abs(s)/startAt))
			if cost < best-1e-6 {
				best, pace, shift = cost, p, s
			}
		}
	}
	if math.Abs(shift) <= startAt {
		shift = 0 // as near as that, all of it is late or early
	}
	return pace, shift
}

// apart is how far taps are from what is due next to them, with what nothing is near to.
func (t Timeline) apart(taps []Tap, pace, shift float64) (sum float64) {
	end := (taps[len(taps)-1].At - shift) / pace
	if end < 0 {
		return math.Inf(1)
	}
	due := t.Bars(int(end/t.BarMS()) + 1)
	used := make([]bool, len(due))
	for _, tap := range taps {
		at := (tap.At - shift) / pace
		near, off := -1, leftOut
		from, _ := slices.BinarySearchFunc(due, at-leftOut, func(d Due, at float64) int { return cmp.Compare(d.At, at) })
		for i := from; i < len(due) && due[i].At <= at+leftOut; i++ {
			if d := math.Abs(due[i].At - at); due[i].With == tap.With && !used[i] && d < off {
				near, off = i, d
			}
		}
		if near >= 0 {
			used[near] = true
		}
		sum += off
	}
	for i, d := range due {
		if !used[i] && d.At <= end {
			sum += leftOut
		}
	}
	return sum
}

// match aligns the taps of one hand with what is due of it, so that all together is least off: what is
// far from everything is too much, what nothing is near to is missed.
func (j *Judgement) match(due []Due, taps []Tap, hand Hand) {
	due = slices.DeleteFunc(slices.Clone(due), func(d Due) bool { return d.With != hand })
	taps = slices.DeleteFunc(slices.Clone(taps), func(t Tap) bool { return t.With != hand })
	n, m := len(due), len(taps)
	cost := make([][]float64, n+1)
	for i := range cost {
		cost[i] = make([]float64, m+1)
		for k := range cost[i] {
			switch {
			case i == 0:
				cost[i][k] = float64(k) * leftOut
			case k == 0:
				cost[i][k] = float64(i) * leftOut
			default:
				cost[i][k] = min(cost[i-1][k], cost[i][k-1]) + leftOut
				if off := math.Abs(taps[k-1].At - due[i-1].At); off <= widest {
					cost[i][k] = min(cost[i][k], cost[i-1][k-1]+off)
				}
			}
		}
	}
	for i, k := n, m; i > 0 || k > 0; {
		if i > 0 && k > 0 {
			off := taps[k-1].At - due[i-1].At
			if math.Abs(off) <= widest && cost[i][k] == cost[i-1][k-1]+math.Abs(off) {
				i, k = i-1, k-1
				j.Strokes = append(j.Strokes, Judged{due[i].Bar, due[i].Slot, hand, off, StateOf(off)})
				continue
			}
		}
		if i > 0 && (k == 0 || cost[i][k] == cost[i-1][k]+leftOut) {
			i--
			j.Strokes = append(j.Strokes, Judged{due[i].Bar, due[i].Slot, hand, 0, Missed})
			continue
		}
		k--
		j.Strokes = append(j.Strokes, j.tooMuch(taps[k]))
	}
}

// tooMuch puts a tap that belongs to nothing into the slot that it is in.
func (j *Judgement) tooMuch(t Tap) Judged {
	grid := j.line.Figure.Grid()
	slot := int(math.Max(0, math.Round(t.At/(j.line.BarMS()/float64(grid)))))
	return Judged{slot / grid, slot % grid, t.With, 0, Extra}
}

// measure finds habits, evenness and drift.
func (j *Judgement) measure() {
	type place struct{ bar, slot int }
	offs := map[place][]float64{}
	missed := map[place]int{}
	var order []place
	var all []float64
	tapped, left := 0, 0
	for _, s := range j.Strokes {
		at := place{s.Bar % len(j.line.Figure.Bars), s.Slot}
		if offs[at] == nil && missed[at] == 0 && s.State != Extra {
			order = append(order, at)
		}
		switch s.State {
		case Extra:
		case Missed:
			missed[at]++
			left++
		default:
			offs[at] = append(offs[at], s.Off)
			all = append(all, s.Off)
			tapped++
		}
	}
	if j.lost = tapped == 0 || 2*left > tapped+left; j.lost {
		return
	}
	if off := middle(all); math.Abs(off) > onTime {
		j.Off = off
	}
	j.Drift = (j.pace - 1) * j.line.BarMS()
	slices.SortFunc(order, func(a, b place) int { return cmp.Or(cmp.Compare(a.bar, b.bar), cmp.Compare(a.slot, b.slot)) })
	var around []float64
	for _, at := range order {
		list := offs[at]
		off := middle(list)
		for _, o := range list {
			around = append(around, math.Abs(o-off))
		}
		same := 0
		for _, o := range list {
			if math.Abs(o-j.Off) > onTime && (o-j.Off)*(off-j.Off) > 0 {
				same++
			}
		}
		switch {
		case missed[at] >= rounds && 2*missed[at] > missed[at]+len(list):
			j.Habits = append(j.Habits, Habit{at.bar, at.slot, 0, Missed})
		case same >= rounds && 2*same > missed[at]+len(list) && math.Abs(off-j.Off) > onTime:
			state := Late
			if off < j.Off {
				state = Early
			}
			j.Habits = append(j.Habits, Habit{at.bar, at.slot, off - j.Off, state})
		}
	}
	if len(around) > 0 {
		slices.Sort(around)
		j.Evenness = around[min(len(around)-1, len(around)*9/10)]
	}
}

// middle is the median.
func middle(list []float64) float64 {
	if len(list) == 0 {
		return 0
	}
	list = slices.Clone(list)
	slices.Sort(list)
	if n := len(list); n%2 == 0 {
		return (list[n/2-1] + list[n/2]) / 2
	}
	return list[len(list)/2]
}

// Says says a habit: "the “and” of 2 comes early, 40 ms each time".
func (j Judgement) Says(h Habit) string {
	at := spotOf(j.line.Figure, h.Bar, h.Slot)
	if h.State == Missed {
		return at + " is left out most times"
	}
	return fmt.Sprintf("%s comes %s, %.0f ms each time", at, h.State, math.Abs(h.Off))
}

func spotOf(p pattern.Pattern, bar, slot int) string {
	at := p.Spot(slot)
	if len(p.Bars) > 1 {
		at += fmt.Sprintf(" of bar %d", bar+1)
	}
	return at
}

// steady is how many ms a bar a take may drift and be called steady. From memory.
const steady = 12.0

// Sentence is what a teacher would say first.
func (j Judgement) Sentence() string {
	missed, extra := 0, 0
	for _, s := range j.Strokes {
		switch s.State {
		case Missed:
			missed++
		case Extra:
			extra++
		}
	}
	if j.lost {
		return "I can’t find the pattern in these taps. Start again with the click, more slowly."
	}
	text := fmt.Sprintf("Even within %.0f ms.", math.Ceil(max(0, j.Evenness-0.05)))
	if j.Off != 0 {
		way := "late"
		if j.Off < 0 {
			way = "early"
		}
		text += fmt.Sprintf(" All of it comes %s, by %.0f ms.", way, math.Abs(j.Off))
	}
	for i, h := range j.Habits {
		if i == 3 {
			break
		}
		said := j.Says(h)
		text += " " + upper(said) + "."
	}
	if len(j.Habits) == 0 && missed > 0 {
		text += " " + upper(say.Count(missed, "tap is", "taps are")) + " missing."
	}
	if extra > 0 {
		text += " " + say.Count(extra, "tap", "taps") + " too many."
	}
	switch {
	case j.Drift > steady:
		text += fmt.Sprintf(" It’s slower than the click, %.0f ms a bar.", j.Drift)
	case j.Drift < -steady:
		text += fmt.Sprintf(" It’s faster than the click, %.0f ms a bar.", -j.Drift)
	}
	return text
}

func upper(s string) string {
	if s[0] >= 'a' && s[0] <= 'z' {
		return string(s[0]-'a'+'A') + s[1:]
	}
	return s
}
