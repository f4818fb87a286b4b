package vary

import (
	"cmp"
	"slices"

	"arplin/core/demand"
	"arplin/core/hand"
)

// Variation is a pattern that one rule away from another.
type Variation struct {
	Pattern  hand.Pattern
	Change   string // the rule's name, with "without" for the simpler direction
	Says     string
	Level    float64
	Together bool // can be played together with the pattern it comes from
}

// Growth is one way to make a pattern harder.
type Growth struct {
	Name     string
	Says     string
	Together bool
	grow     func(hand.Pattern) (hand.Pattern, bool)
}

// Growths are the rules that add. Source: common practice, the ways in which
// teachers vary a figure.
var Growths = []Growth{
	{"every beat", "The thumb strikes every beat.", true, thumbOnEveryBeat},
	{"second bass string", "The thumb walks between two strings.", true, alternate},
	{"low fifth", "The third stroke of the thumb goes to the low fifth.", true, lowFifth},
	{"a pinch on two", "A finger falls with the thumb on two.", true, pinchOnTwo},
	{"an off-beat note", "One more note falls between the beats.", true, addOffBeat},
	{"the last eighth", "The last eighth is played; there is less time to change.", true, fillLast},
	{"ring finger", "The second of two equal notes goes to the ring finger.", true, ringFinger},
	{"a pair", "A second finger joins a single note.", true, addPair},
	{"more up strokes", "The hand comes back through the strings on its way up.", true, fillUps},
	{"a stroke left out", "The hand passes beat three in the air.", true, leaveThreeOut},
	{"accents on two and four", "The same strokes, with weight on two and four.", true, backBeat(hand.Accent)},
	{"three-three-two", "Accents on one, the and of two, and four.", true, threeThreeTwo},
	{"a chuck on two and four", "The hand stops the strings as it strikes them.", true, backBeat(hand.Chuck)},
	{"turned round", "The fingers run the other way.", true, turnedRound},
	{"inside and outside swapped", "Index and middle change places.", true, swapped},
	{"twice as many", "Every stroke of the hand also falls between the beats.", true, doubledDowns},
	{"swung", "Long, short, long, short.", false, swung},
}

// Neighbours lists what lies one rule away, by level: the simpler ones from the
// hardest down, the harder ones from the easiest up. Everything is measured as
// the task is, on its chords and at its tempo; what does not change the level to
// its side is left out.
func Neighbours(t demand.Task, w demand.Weights) (simpler, harder []Variation) {
	level := demand.Of(t, w).Level
	seen := map[string]bool{t.Pattern.String(): true}
	try := func(p hand.Pattern, change, says string, together bool) {
		if seen[p.String()] || !keepsBass(t.Pattern, p) {
			return
		}
		seen[p.String()] = true
		task := t
		task.Pattern = p
		v := Variation{p, change, says, demand.Of(task, w).Level, together}
		switch {
		case v.Level < level:
			simpler = append(simpler, v)
		case v.Level > level:
			harder = append(harder, v)
		}
	}
	for _, r := range Rules {
		if p, ok := r.simplify(t.Pattern); ok {
			try(p, "without "+r.Name, "Leave this out for now: "+lowerFirst(r.Says), true)
		}
	}
	for _, g := range Growths {
		if p, ok := g.grow(t.Pattern); ok {
			try(p, g.Name, g.Says, g.Together)
		}
	}
	slices.SortStableFunc(simpler, func(a, b Variation) int { return cmp.Compare(b.Level, a.Level) })
	slices.SortStableFunc(harder, func(a, b Variation) int { return cmp.Compare(a.Level, b.Level) })
	return simpler, harder
}

func lowerFirst(s string) string {
	if s == "" {
		return s
	}
	return string(s[0]|0x20) + s[1:]
}

// keepsBass: a bar that begins with a bass stroke or a strum still does, and
// the meter is kept.
func keepsBass(was, now hand.Pattern) bool {
	if was.Meter != now.Meter {
		return false
	}
	for i, bar := range now.Bars {
		before := was.Bars[i%len(was.Bars)][0]
		if !before.Empty() && !before.Stop && bar[0].Empty() {
			return false
		}
		if _, had := before.Find(hand.Thumb); had {
			if _, has := bar[0].Find(hand.Thumb); !has {
				return false
			}
		}
	}
	return true
}

// each slot of a copy; changed tells whether edit did anything anywhere.
func edited(p hand.Pattern, edit func(bar hand.Bar, i int) bool) (hand.Pattern, bool) {
	q := p.Clone()
	changed := false
	for _, bar := range q.Bars {
		for i := range bar {
			changed = edit(bar, i) || changed
		}
	}
	if !changed {
		return p, false
	}
	again, err := hand.Parse(q.String()) // canonical order and all the reader's checks
	return again, err == nil
}

func thumbOnEveryBeat(p hand.Pattern) (hand.Pattern, bool) {
	if p.HasStrums() || !p.Uses(hand.Thumb) {
		return p, false
	}
	return edited(p, func(bar hand.Bar, i int) bool {
		if !p.OnBeat(i) || !bar[i].Empty() {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: hand.Thumb}}
		return true
	})
}

// retarget changes every second, or every third, thumb stroke of a bar.
func retarget(p hand.Pattern, which func(n int) bool, kind hand.TargetKind) (hand.Pattern, bool) {
	n := 0
	return edited(p, func(bar hand.Bar, i int) bool {
		if i == 0 {
			n = 0
		}
		for k, st := range bar[i].Strokes {
			if st.Sign != hand.Thumb {
				continue
			}
			n++
			if which(n) && st.Target.Kind == hand.ByChord {
				bar[i].Strokes[k].Target = hand.Target{Kind: kind}
				return true
			}
		}
		return false
	})
}

func alternate(p hand.Pattern) (hand.Pattern, bool) {
	return retarget(p, func(n int) bool { return n%2 == 0 }, hand.Alternate)
}

func lowFifth(p hand.Pattern) (hand.Pattern, bool) {
	if !p.UsesTarget(hand.Alternate, "p") {
		return p, false
	}
	return retarget(p, func(n int) bool { return n == 3 }, hand.LowFifth)
}

func pinchOnTwo(p hand.Pattern) (hand.Pattern, bool) {
	return edited(p, func(bar hand.Bar, i int) bool {
		if i != p.SlotsPerBeat() || len(bar[i].Strokes) != 1 || bar[i].Strokes[0].Sign != hand.Thumb {
			return false
		}
		bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: hand.Middle})
		return true
	})
}

// addOffBeat fills the first silent place between two beats with the finger that
// was not heard last; the last place of the bar stays free for the change.
func addOffBeat(p hand.Pattern) (hand.Pattern, bool) {
	if p.HasStrums() || !p.Uses(hand.Thumb) || p.SlotsPerBeat() == 1 {
		return p, false
	}
	done := false
	return edited(p, func(bar hand.Bar, i int) bool {
		if done || p.OnBeat(i) || i == len(bar)-1 || i < p.SlotsPerBeat() || !bar[i].Empty() {
			return false
		}
		done = true
		bar[i].Strokes = []hand.Stroke{{Sign: hand.Index}}
		return true
	})
}

func fillLast(p hand.Pattern) (hand.Pattern, bool) {
	return edited(p, func(bar hand.Bar, i int) bool {
		if i != len(bar)-1 || !bar[i].Empty() || p.OnBeat(i) || i < 2 {
			return false
		}
		sign := hand.Index
		if p.HasStrums() {
			sign = hand.Up
		}
		bar[i].Strokes = []hand.Stroke{{Sign: sign}}
		return true
	})
}

// ringFinger takes the later of two notes of the index for the ring finger.
func ringFinger(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Ring) || !p.Uses(hand.Middle) {
		return p, false
	}
	last := hand.Sign(0)
	done := false
	return edited(p, func(bar hand.Bar, i int) bool {
		for k, st := range bar[i].Strokes {
			if !isFinger(st) {
				continue
			}
			if !done && last == hand.Middle && st.Sign == hand.Index && st.Target.Kind == hand.ByChord {
				bar[i].Strokes[k].Sign = hand.Ring
				done = true
				return true
			}
			last = st.Sign
		}
		return false
	})
}

func addPair(p hand.Pattern) (hand.Pattern, bool) {
	done := false
	return edited(p, func(bar hand.Bar, i int) bool {
		if done || len(bar[i].Strokes) != 1 || bar[i].Strokes[0].Sign != hand.Middle || !p.OnBeat(i) {
			return false
		}
		done = true
		bar[i].Strokes = append(bar[i].Strokes, hand.Stroke{Sign: hand.Ring})
		return true
	})
}

func fillUps(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Down) {
		return p, false
	}
	target := hand.Target{}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if st, ok := slot.Find(hand.Up); ok {
				target = st.Target
			} else if st, ok := slot.Find(hand.Down); ok && p.Uses(hand.Thumb) {
				target = st.Target
			}
		}
	}
	return edited(p, func(bar hand.Bar, i int) bool {
		if !bar[i].Empty() || p.AgainstHand(i, hand.Up) || i == 0 || bar[i-1].Empty() {
			return false
		}
		bar[i].Strokes = []hand.Stroke{{Sign: hand.Up, Target: target}}
		return true
	})
}

func leaveThreeOut(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Up) || p.Uses(hand.Thumb) || p.Meter.TappedBeats() < 4 {
		return p, false
	}
	return edited(p, func(bar hand.Bar, i int) bool {
		if i != 2*p.SlotsPerBeat() || bar[i].Empty() {
			return false
		}
		bar[i] = hand.Slot{}
		return true
	})
}

// backBeat marks the strums on two and four.
func backBeat(m hand.Marks) func(hand.Pattern) (hand.Pattern, bool) {
	return func(p hand.Pattern) (hand.Pattern, bool) {
		if p.Meter.TappedBeats() != 4 {
			return p, false
		}
		return edited(p, func(bar hand.Bar, i int) bool {
			beat := i / p.SlotsPerBeat()
			if !p.OnBeat(i) || beat%2 == 0 || len(bar[i].Strokes) != 1 {
				return false
			}
			st := &bar[i].Strokes[0]
			if !st.Sign.Strum() || st.Marks&(m|hand.Accent|hand.Soft) != 0 {
				return false
			}
			st.Marks |= m
			return true
		})
	}
}

func threeThreeTwo(p hand.Pattern) (hand.Pattern, bool) {
	if p.Meter.TappedBeats() != 4 || p.Grid() != 8 {
		return p, false
	}
	for _, bar := range p.Bars {
		for _, slot := range bar {
			if len(slot.Strokes) == 0 {
				return p, false
			}
		}
	}
	return edited(p, func(bar hand.Bar, i int) bool {
		st := &bar[i].Strokes[0]
		if i != 0 && i != 3 && i != 6 || st.Marks&(hand.Accent|hand.Soft) != 0 {
			return false
		}
		st.Marks |= hand.Accent
		return true
	})
}

// turnedRound lets the fingers of each bar run backwards over their places.
func turnedRound(p hand.Pattern) (hand.Pattern, bool) {
	q := p.Clone()
	changed := false
	for _, bar := range q.Bars {
		var at [][2]int
		for i, slot := range bar {
			for k, st := range slot.Strokes {
				if isFinger(st) {
					at = append(at, [2]int{i, k})
				}
			}
		}
		for a, b := 0, len(at)-1; a < b; a, b = a+1, b-1 {
			x, y := &bar[at[a][0]].Strokes[at[a][1]], &bar[at[b][0]].Strokes[at[b][1]]
			changed = changed || *x != *y
			*x, *y = *y, *x
		}
	}
	again, err := hand.Parse(q.String())
	return again, changed && err == nil
}

func swapped(p hand.Pattern) (hand.Pattern, bool) {
	if !p.Uses(hand.Index) || !p.Uses(hand.Middle) || p.Uses(hand.Ring) {
		return p, false
	}
	return edited(p, func(bar hand.Bar, i int) bool {
		changed := false
		for k, st := range bar[i].Strokes {
			switch st.Sign {
			case hand.Index:
				bar[i].Strokes[k].Sign = hand.Middle
				changed = true
			case hand.Middle:
				bar[i].Strokes[k].Sign = hand.Index
				changed = true
			}
		}
		return changed
	})
}

func doubledDowns(p hand.Pattern) (hand.Pattern, bool) {
	if p.Uses(hand.Up) || p.Uses(hand.Thumb) || !p.Uses(hand.Down) || p.SlotsPerBeat() != 2 {
		return p, false
	}
	return edited(p, func(bar hand.Bar, i int) bool {
		if i == 0 || !bar[i].Empty() {
			return false
		}
		st, ok := bar[i-1].Find(hand.Down)
		if !ok {
			return false
		}
		st.Marks = 0
		bar[i].Strokes = []hand.Stroke{st}
		return true
	})
}

func swung(p hand.Pattern) (hand.Pattern, bool) {
	if p.Swing || p.Meter.Compound() || p.SlotsPerBeat() != 2 {
		return p, false
	}
	q := p.Clone()
	q.Swing = true
	return q, true
}
