package edit

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/variation"
)

// Edit is one thing that a teacher does to a ladder; each kind is a type of its
// own. It works on a copy; the last step stays the target.
type Edit interface {
	apply(e *editor) (say.Line, error)
}

// The edits.
type (
	// Pin has a step stay when the rest is rebuilt, or lets it go again.
	Pin struct{ Step ladder.StepID }
	// Drop takes a step out; the step above then adds what this one added, too.
	Drop struct{ Step ladder.StepID }
	// Join joins a step with the one below, which is dropped.
	Join struct{ Step ladder.StepID }
	// Split puts a step between this one and the one below.
	Split struct{ Step ladder.StepID }
	// Raise changes places with the step above, Lower with the one below.
	Raise struct{ Step ladder.StepID }
	Lower struct{ Step ladder.StepID }
	// Write gives a step another pattern, and pins it.
	Write struct {
		Step    ladder.StepID
		Pattern pattern.Pattern
	}
	// Insert puts a pattern of the teacher's own in by its level.
	Insert struct{ Pattern pattern.Pattern }
	// Note puts a line of the teacher's on a step, or with no text takes it off.
	Note struct {
		Step ladder.StepID
		Text string
	}
	// Choose begins the ladder with other chords, and finds everything but the pinned
	// steps anew; an empty one is found.
	Choose struct{ ladder.Beginning }
	// Rebuild finds everything but the pinned steps anew, in an order.
	Rebuild struct{ Order order.Order }
)

// What can be done to a ladder, by id; these are stored.
const (
	pinned   say.ID = "pinned"
	unpinned say.ID = "unpinned"
	dropped  say.ID = "dropped"
	between  say.ID = "put-between"
	swapped  say.ID = "changed-places"
	written  say.ID = "written"
	inserted say.ID = "inserted"
	rebuilt  say.ID = "rebuilt"
	placed   say.ID = "placed"
	begun    say.ID = "begun"
	found    say.ID = "chords-found"
	noted    say.ID = "noted"
	imported say.ID = "imported"
	earlier  say.ID = "earlier" // of a time when only words were kept
)

// DoneWords are the words for it.
var DoneWords = say.Words{
	pinned:   "Pinned step %s",
	unpinned: "Unpinned step %s",
	dropped:  "Dropped step %s",
	between:  "Put a step below step %s",
	swapped:  "Steps %s and %s changed places",
	written:  "Changed step %s",
	inserted: "Put your step in as number %s",
	rebuilt:  "Rebuilt all but the pinned steps",
	noted:    "Changed the line on step %s",
	begun:    "It begins with %s, then %s",
	found:    "It begins with the chords that are found",
	placed:   "Moved students on the ladder",
	imported: "Took the version of a file",
	earlier:  "An earlier change",
}

// Placed is what was done when students were moved.
func Placed() say.Line { return say.Of(placed) }

// Apply carries out an edit on a copy and returns what was done. The task is
// the target on its song.
func Apply(l ladder.Ladder, e Edit, t difficulty.Task, w difficulty.Weights) (ladder.Ladder, say.Line, error) {
	if l.OfTune() {
		if err := mayTune(e); err != nil {
			return l, say.Line{}, err
		}
	}
	ed := &editor{l: l, Setting: ladder.SettingOf(t), weights: w}
	ed.l.Steps = slices.Clone(l.Steps)
	d, err := e.apply(ed)
	if err != nil {
		return l, d, err
	}
	ed.l.Steps, ed.l.Next = ladder.Numbered(ed.l.Steps, l.Next)
	return ed.l, d, nil
}

// editor is a ladder under the hand, with the target on its song.
type editor struct {
	l ladder.Ladder
	ladder.Setting
	weights difficulty.Weights
}

func (e *editor) level(s ladder.Step) float64 { return difficulty.LevelOf(e.Task(s), e.weights) }

func (e *editor) last() int { return len(e.l.Steps) - 1 }

func (e *editor) at(id ladder.StepID) (int, error) {
	if i := ladder.Find(e.l.Steps, id); i >= 0 {
		return i, nil
	}
	return 0, fmt.Errorf("that step is not on the ladder any more")
}

func (c Pin) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	e.l.Steps[at].Pinned = !e.l.Steps[at].Pinned
	if e.l.Steps[at].Pinned {
		return say.Of(pinned, at+1), nil
	}
	return say.Of(unpinned, at+1), nil
}

func (c Drop) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	if at == e.last() {
		return say.Line{}, fmt.Errorf("the last step is the target and stays")
	}
	if at > 0 { // what was only put in between is a part of what the next step adds
		own := slices.DeleteFunc(slices.Clone(e.l.Steps[at].Adds), func(th ladder.Thing) bool { return th.Short })
		e.l.Steps[at+1].Adds = slices.Concat(own, e.l.Steps[at+1].Adds)
	}
	e.l.Steps = slices.Delete(e.l.Steps, at, at+1)
	return say.Of(dropped, at+1), nil
}

func (c Join) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	if at == 0 {
		return say.Line{}, fmt.Errorf("there is no step below the first")
	}
	return Drop{e.l.Steps[at-1].ID}.apply(e)
}

func (c Split) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	if len(e.l.Steps) >= ladder.MaxSteps {
		return say.Line{}, fmt.Errorf("a ladder has at most %d steps", ladder.MaxSteps)
	}
	s, ok := e.between(at)
	if !ok {
		return say.Line{}, fmt.Errorf("there is nothing to put below step %d: it adds as little as a step can", at+1)
	}
	e.l.Steps = slices.Insert(e.l.Steps, at, s)
	return say.Of(between, at+2), nil
}

func (c Raise) apply(e *editor) (say.Line, error) { return e.move(c.Step, +1) }

func (c Lower) apply(e *editor) (say.Line, error) { return e.move(c.Step, -1) }

func (c Write) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	if err := e.together(c.Pattern); err != nil {
		return say.Line{}, err
	}
	if at == e.last() {
		return say.Line{}, fmt.Errorf("the last step is the target; make another ladder for another target")
	}
	s := e.l.Steps[at]
	s.Pattern, s.Adds, s.Pinned, s.Home = c.Pattern, []ladder.Thing{{Stage: ladder.Own}}, true, false
	s.Level = e.level(s)
	e.l.Steps = slices.Delete(e.l.Steps, at, at+1)
	if at, err = e.put(s); err != nil {
		return say.Line{}, err
	}
	return say.Of(written, at+1), nil
}

// put puts a step where its level belongs, and returns the place. Steps rise.
func (e *editor) put(s ladder.Step) (int, error) {
	at := 0
	for at < len(e.l.Steps) && e.l.Steps[at].Level < s.Level {
		at++
	}
	switch {
	case at == len(e.l.Steps):
		return 0, fmt.Errorf("it is harder than the target; it belongs beyond it")
	case e.l.Steps[at].Level == s.Level:
		return 0, fmt.Errorf("it is as hard as step %d", at+1)
	}
	e.l.Steps = slices.Insert(e.l.Steps, at, s)
	return at, nil
}

// together checks a pattern of the teacher's own.
func (e *editor) together(p pattern.Pattern) error {
	if !variation.Together(p, e.Whole.Pattern) {
		return fmt.Errorf("it cannot be played together with %s", e.Whole.Pattern)
	}
	return nil
}

func (c Note) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	text := strings.Join(strings.Fields(c.Text), " ")
	if n := utf8.RuneCountInString(text); n > ladder.MaxRemark {
		return say.Line{}, fmt.Errorf("a line on a step has at most %d letters, not %d", ladder.MaxRemark, n)
	}
	e.l.Steps[at].Remark = text
	return say.Of(noted, at+1), nil
}

func (c Insert) apply(e *editor) (say.Line, error) {
	if err := e.together(c.Pattern); err != nil {
		return say.Line{}, err
	}
	if len(e.l.Steps) >= ladder.MaxSteps {
		return say.Line{}, fmt.Errorf("a ladder has at most %d steps", ladder.MaxSteps)
	}
	own := ladder.Step{Pattern: c.Pattern, Adds: []ladder.Thing{{Stage: ladder.Own}}, Over: ladder.OneChord, Pinned: true}
	below := 0
	for below < e.last() && e.l.Steps[below].Level < e.level(own) {
		below++
	}
	own.Parts = e.l.Steps[max(0, below-1)].Parts // the others play what they play one step below
	own.Level = e.level(own)
	at, err := e.put(own)
	if err != nil {
		return say.Line{}, err
	}
	return say.Of(inserted, at+1), nil
}

// between finds the pattern, one rule or one stroke below a step, whose level
// lies nearest to the middle of the step and the one below it.
func (e *editor) between(at int) (ladder.Step, bool) {
	step := e.l.Steps[at]
	low := 1.0
	if at > 0 {
		low = e.l.Steps[at-1].Level
	}
	found, off := ladder.Step{}, math.Inf(1)
	take := func(p pattern.Pattern, things []ladder.Thing) {
		s := step
		s.ID, s.Pattern, s.Adds, s.Pinned = 0, p, things, false
		s.Level = e.level(s)
		if d := math.Abs(s.Level - (low+step.Level)/2); s.Level > low && s.Level < step.Level && d < off {
			off, found = d, s
		}
	}
	for _, r := range variation.Rules {
		for _, p := range r.Simpler(step.Pattern) {
			if variation.Together(step.Pattern, p) {
				take(p, []ladder.Thing{{Rule: r.ID, Short: true}})
			}
		}
	}
	if at > 0 && len(step.Pattern.Bars) == len(e.l.Steps[at-1].Pattern.Bars) {
		// Part of what the step adds: one of its new strokes is left for later.
		fresh := pattern.New(step.Pattern, e.l.Steps[at-1].Pattern)
		things := slices.Clone(step.Adds)
		for i := range things {
			things[i].Short = true
		}
		step.Pattern.Each(func(pl pattern.Place, _ pattern.Stroke) {
			if !fresh[pl] {
				return
			}
			p, ok := variation.Keep(step.Pattern, func(bar, slot int, st pattern.Stroke) bool {
				return pattern.Place{Bar: bar, Slot: slot, Sign: st.Sign} != pl
			})
			if ok && variation.KeepsBass(step.Pattern, p) {
				take(p, things)
			}
		})
	}
	return found, off < math.Inf(1)
}

// mayTune reports whether an edit makes sense where the steps are found from a tune.
func mayTune(e Edit) error {
	switch e.(type) {
	case Drop, Join, Note:
		return nil
	}
	return fmt.Errorf("the steps of this ladder are the stations of the tune: change the tune, or where its notes lie")
}
