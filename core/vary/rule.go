// Package vary makes patterns simpler and harder by small named rules, and
// ladders from a first step up to a target pattern.
package vary

import (
	"slices"
	"strings"

	"arplin/core/hand"
)

// Rule is one thing that a pattern can have or not. Harder is the pattern with
// it, Simpler without; what one direction leads to, the other leads back from.
type Rule struct {
	Name    string // what the harder side has: "second bass string"
	Less    string // what the simpler side is called; empty for a rule that undoes itself
	Says    string // the sentence for taking it up
	Without string // the sentence for leaving it out; empty for a rule that undoes itself
	How     string // how a step that takes it up is practised
	Ladder  bool   // ladders are built from it
	Single  bool   // its name speaks of one stroke

	less func(hand.Pattern) []hand.Pattern
	more func(hand.Pattern) []hand.Pattern
}

// Simpler lists what the rule makes of a pattern by leaving its thing out, a
// result for each place where it has a hold.
func (r Rule) Simpler(p hand.Pattern) []hand.Pattern {
	if r.less == nil {
		return nil
	}
	return kept(p, r.less(p))
}

// Harder lists what the rule makes of a pattern by adding its thing. What
// Simpler would not lead back from is left out, so that a teacher who takes a
// step up can take the same step down.
func (r Rule) Harder(p hand.Pattern) []hand.Pattern {
	if r.more == nil {
		return nil
	}
	back := r.less
	if back == nil { // a rule that undoes itself
		back = r.more
	}
	was := p.String()
	return slices.DeleteFunc(kept(p, r.more(p)), func(q hand.Pattern) bool {
		return !slices.ContainsFunc(back(q), func(o hand.Pattern) bool { return o.String() == was })
	})
}

// LessName is the name of the simpler direction; a rule that undoes itself has
// one name for both.
func (r Rule) LessName() string {
	if r.Less != "" {
		return r.Less
	}
	return r.Name
}

// LeaveOut is the sentence for the simpler direction.
func (r Rule) LeaveOut() string {
	if r.Without != "" {
		return r.Without
	}
	return r.Says
}

// Together reports whether two patterns can be played at once on the same song:
// the bar lines and the feel are the same.
func Together(p, q hand.Pattern) bool { return p.Meter == q.Meter && p.Swing == q.Swing }

// kept reads every result anew, so that it is canonical and within the reader's
// limits, and leaves out repeats and what loses the bass on one.
func kept(p hand.Pattern, results []hand.Pattern) []hand.Pattern {
	var list []hand.Pattern
	seen := map[string]bool{p.String(): true}
	for _, q := range results {
		again, err := hand.Parse(q.String())
		if err != nil || again.Count() == 0 || !keepsBass(p, again) {
			continue
		}
		if key := again.String(); !seen[key] {
			seen[key] = true
			list = append(list, again)
		}
	}
	return list
}

// keepsBass: a bar that begins with a bass stroke or a strum still does.
func keepsBass(was, now hand.Pattern) bool {
	for i, bar := range now.Bars {
		before := was.Bars[i%len(was.Bars)][0]
		if !before.Empty() && !before.Stop && bar[0].Empty() {
			return false
		}
		if bassStroke(before) && !bassStroke(bar[0]) {
			return false
		}
	}
	return true
}

// bassStroke: the thumb, or a down stroke that takes a bass string.
func bassStroke(slot hand.Slot) bool {
	if _, ok := slot.Find(hand.Thumb); ok {
		return true
	}
	st, ok := slot.Find(hand.Down)
	return ok && st.Target.Kind != hand.Treble
}

// one makes a rule's direction of an edit with one result.
func one(edit func(hand.Pattern) (hand.Pattern, bool)) func(hand.Pattern) []hand.Pattern {
	return func(p hand.Pattern) []hand.Pattern {
		if q, ok := edit(p); ok {
			return []hand.Pattern{q}
		}
		return nil
	}
}

// anyOf joins several edits into one direction.
func anyOf(edits ...func(hand.Pattern) (hand.Pattern, bool)) func(hand.Pattern) []hand.Pattern {
	return func(p hand.Pattern) (list []hand.Pattern) {
		for _, edit := range edits {
			if q, ok := edit(p); ok {
				list = append(list, q)
			}
		}
		return list
	}
}

// maxPlaces bounds the slots at which a rule is tried: in a figure of many bars
// the first stand for the rest.
const maxPlaces = 32

// atPlaces tries an edit of one slot at every slot of the pattern by itself.
func atPlaces(edit func(p hand.Pattern, bar hand.Bar, slot int) bool) func(hand.Pattern) []hand.Pattern {
	return func(p hand.Pattern) (list []hand.Pattern) {
		for b := range p.Bars {
			for i := range p.Bars[b] {
				if b*p.Grid()+i >= maxPlaces {
					return list
				}
				q := p.Clone()
				if edit(p, q.Bars[b], i) {
					list = append(list, q)
				}
			}
		}
		return list
	}
}

// everywhere carries an edit out on every slot of a copy; changed tells whether
// it did anything.
func everywhere(p hand.Pattern, edit func(bar hand.Bar, slot int) bool) (q hand.Pattern, changed bool) {
	q = p.Clone()
	for _, bar := range q.Bars {
		for i := range bar {
			changed = edit(bar, i) || changed
		}
	}
	return q, changed
}

func lowerFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}
