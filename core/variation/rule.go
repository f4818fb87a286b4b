package variation

import (
	"slices"

	"arplin/core/pattern"
)

// ID names a rule for good: it is what is stored, while the words may change.
type ID string

// Rule is one thing that a pattern can have or not. Harder is the pattern with
// it, Simpler without; what one direction leads to, the other leads back from.
type Rule struct {
	ID     ID
	More   Words  // taking it up
	Less   Words  // leaving it out; zero for a rule that undoes itself
	How    string // how a step that takes it up is practised
	Ladder bool   // ladders are built from it

	notes bool // its thing is notes that can be named by their place
	less  func(pattern.Pattern) []pattern.Pattern
	more  func(pattern.Pattern) []pattern.Pattern
}

// Simpler lists what the rule makes of a pattern by leaving its thing out, a
// result for each place where it has a hold.
func (r Rule) Simpler(p pattern.Pattern) []pattern.Pattern {
	if r.less == nil {
		return nil
	}
	return kept(p, r.less(p))
}

// Harder lists what the rule makes of a pattern by adding its thing. What
// Simpler would not lead back from is left out, so that a teacher who takes a
// step up can take the same step down.
func (r Rule) Harder(p pattern.Pattern) []pattern.Pattern {
	if r.more == nil {
		return nil
	}
	back := r.less
	if back == nil { // a rule that undoes itself
		back = r.more
	}
	was := p.String()
	return slices.DeleteFunc(kept(p, r.more(p)), func(q pattern.Pattern) bool {
		return !slices.ContainsFunc(back(q), func(o pattern.Pattern) bool { return o.String() == was })
	})
}

// Together reports whether two patterns can be played at once on the same song:
// the bar lines and the feel are the same.
func Together(p, q pattern.Pattern) bool { return p.Meter == q.Meter && p.Swing == q.Swing }

// KeepsBass: a bar that begins with a bass stroke or a strum still does.
func KeepsBass(was, now pattern.Pattern) bool {
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
func bassStroke(slot pattern.Slot) bool {
	if _, ok := slot.Find(pattern.Thumb); ok {
		return true
	}
	st, ok := slot.Find(pattern.Down)
	return ok && st.Target.Kind != pattern.Treble
}

// kept reads every result anew, so that it is canonical and within the reader's
// limits, and leaves out repeats and what loses the bass on 1.
func kept(p pattern.Pattern, results []pattern.Pattern) []pattern.Pattern {
	var list []pattern.Pattern
	seen := map[string]bool{p.String(): true}
	for _, q := range results {
		again, err := pattern.Parse(q.String())
		if err != nil || again.Count() == 0 || !KeepsBass(p, again) {
			continue
		}
		if key := again.String(); !seen[key] {
			seen[key] = true
			list = append(list, again)
		}
	}
	return list
}

// one makes a rule's direction of an edit with one result.
func one(edit func(pattern.Pattern) (pattern.Pattern, bool)) func(pattern.Pattern) []pattern.Pattern {
	return func(p pattern.Pattern) []pattern.Pattern {
		if q, ok := edit(p); ok {
			return []pattern.Pattern{q}
		}
		return nil
	}
}

// anyOf joins several edits into one direction.
func anyOf(edits ...func(pattern.Pattern) (pattern.Pattern, bool)) func(pattern.Pattern) []pattern.Pattern {
	return func(p pattern.Pattern) (list []pattern.Pattern) {
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
func atPlaces(edit func(p pattern.Pattern, bar pattern.Bar, slot int) bool) func(pattern.Pattern) []pattern.Pattern {
	return func(p pattern.Pattern) (list []pattern.Pattern) {
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
func everywhere(p pattern.Pattern, edit func(bar pattern.Bar, slot int) bool) (q pattern.Pattern, changed bool) {
	q = p.Clone()
	for _, bar := range q.Bars {
		for i := range bar {
			changed = edit(bar, i) || changed
		}
	}
	return q, changed
}

// Keep returns the pattern with only the strokes that the test lets stand;
// changed tells whether any went, and the result must not be empty.
func Keep(p pattern.Pattern, stays func(bar, slot int, st pattern.Stroke) bool) (q pattern.Pattern, changed bool) {
	q = p.Clone()
	for b, bar := range q.Bars {
		for i := range bar {
			left := bar[i].Strokes[:0]
			for _, st := range bar[i].Strokes {
				if stays(b, i, st) {
					left = append(left, st)
				} else {
					changed = true
				}
			}
			if len(left) == 0 {
				left = nil
			}
			bar[i].Strokes = left
		}
	}
	return q, changed && q.Count() > 0
}
