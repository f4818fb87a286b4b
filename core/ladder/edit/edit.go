package edit

import (
	"cmp"
	"fmt"
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
	// Join joins a step with the one below, whose things it then adds, too.
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
	// Thin drops several steps at once.
	Thin struct{ Steps []ladder.StepID }
	// Insert puts a pattern of the teacher's own in above a step, or, with none, where it belongs by
	// its strokes; on chords, one where none are said, and at a pace in per cent of the song's goal, 0
	// for all of it.
	Insert struct {
		Pattern pattern.Pattern
		After   ladder.StepID
		Over    ladder.Over
		Pace    int
	}
	// Note puts a line of the teacher's on a step, or with no text takes it off.
	Note struct {
		Step ladder.StepID
		Text string
	}
	// Choose begins the ladder with other chords, and finds everything but the pinned
	// steps anew; an empty one is found.
	Choose struct{ ladder.Beginning }
	// Rebuild finds everything but the pinned steps anew, as a teacher chooses.
	Rebuild struct{ order.Choice }
)

// What can be done to a ladder, by id; these are stored.
const (
	pinned   say.ID = "pinned"
	unpinned say.ID = "unpinned"
	dropped  say.ID = "dropped"
	joined   say.ID = "joined"
	thinned  say.ID = "thinned"
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
	dropped:  "Removed step %s",
	joined:   "Joined steps %s and %s",
	thinned:  "Removed %s steps",
	between:  "Added a step below step %s",
	swapped:  "Swapped steps %s and %s",
	written:  "Changed step %s",
	inserted: "Added your step as step %s",
	rebuilt:  "Rebuilt unpinned steps",
	noted:    "Changed the note on step %s",
	begun:    "Started with %s, then %s",
	found:    "Started with the detected chords",
	placed:   "Moved students",
	imported: "Used the file’s version",
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
	return 0, fmt.Errorf("that step isn’t on the ladder any more")
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
	if err := e.drop(at); err != nil {
		return say.Line{}, err
	}
	return say.Of(dropped, at+1), nil
}

// drop takes a step out; the one above adds what it added, too.
func (e *editor) drop(at int) error {
	if at == e.last() {
		return fmt.Errorf("the last step is the target, so it stays")
	}
	if at > 0 { // what was only put in between is a part of what the next step adds
		own := slices.DeleteFunc(slices.Clone(e.l.Steps[at].Adds), func(th ladder.Thing) bool { return th.Short || th.Stage == ladder.Own })
		e.l.Steps[at+1].Adds = merged(own, e.l.Steps[at+1].Adds)
	}
	e.l.Steps = slices.Delete(e.l.Steps, at, at+1)
	return nil
}

func (c Join) apply(e *editor) (say.Line, error) {
	at, err := e.at(c.Step)
	if err != nil {
		return say.Line{}, err
	}
	if at == 0 {
		return say.Line{}, fmt.Errorf("there is no step below the first")
	}
	return say.Of(joined, at, at+1), e.drop(at - 1)
}

func (c Thin) apply(e *editor) (say.Line, error) {
	n := 0
	for _, id := range c.Steps {
		at, err := e.at(id)
		if err != nil {
			return say.Line{}, err
		}
		if err := e.drop(at); err != nil {
			return say.Line{}, err
		}
		n++
	}
	if n == 0 {
		return say.Line{}, fmt.Errorf("tick the steps you want to remove")
	}
	return say.Of(thinned, n), nil
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
		return say.Line{}, fmt.Errorf("nothing fits below step %d: it already adds as little as a step can", at+1)
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
		return say.Line{}, fmt.Errorf("the last step is the target. Create another ladder for another target")
	}
	s := e.l.Steps[at]
	s.Pattern, s.Adds, s.Pinned, s.Home = c.Pattern, []ladder.Thing{{Stage: ladder.Own}}, true, false
	if same := slices.IndexFunc(e.l.Steps, s.Same); same >= 0 && same != at {
		return say.Line{}, fmt.Errorf("it’s already step %d", same+1)
	}
	s.Level = e.level(s)
	e.l.Steps[at] = s
	return say.Of(written, at+1), nil
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
		return say.Line{}, fmt.Errorf("a line on a step has at most %d characters, not %d", ladder.MaxRemark, n)
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
	own := ladder.Step{Pattern: c.Pattern, Adds: []ladder.Thing{{Stage: ladder.Own}}, Over: cmp.Or(c.Over, ladder.OneChord), Pace: c.Pace, Pinned: true}
	if !slices.Contains([]ladder.Over{ladder.OneChord, ladder.TwoChords, ladder.AllChords}, own.Over) || own.Pace < 0 || own.Pace >= 100 {
		return say.Line{}, fmt.Errorf("a step is on one chord, on two or on all, at a tempo up to the goal")
	}
	if own.Over != ladder.OneChord && e.Two == nil {
		return say.Line{}, fmt.Errorf("the song has one chord")
	}
	at := e.placeOf(own)
	if c.After != 0 {
		below, err := e.at(c.After)
		if err != nil {
			return say.Line{}, err
		}
		at = min(below+1, e.last())
	}
	own.Parts = e.l.Steps[max(0, at-1)].Parts // the others play what they play one step below
	if same := slices.IndexFunc(e.l.Steps, own.Same); same >= 0 {
		return say.Line{}, fmt.Errorf("it’s already step %d", same+1)
	}
	own.Level = e.level(own)
	e.l.Steps = slices.Insert(e.l.Steps, at, own)
	return say.Of(inserted, at+1), nil
}

// placeOf is where a figure belongs by what is in it: above the last step whose strokes it has all,
// on as many chords; never above the target.
func (e *editor) placeOf(own ladder.Step) int {
	at := 0
	for i, s := range e.l.Steps[:e.last()] {
		if s.Play != difficulty.OnStrings || s.Over == own.Over && holds(own.Pattern, s.Pattern) || s.Over != own.Over && s.Over.Fewer(own.Over) {
			at = i + 1
		}
	}
	return at
}

// holds reports a figure that has every stroke of another as it is there.
func holds(p, part pattern.Pattern) bool {
	all := p.Grid() == part.Grid() && len(p.Bars) == len(part.Bars)
	part.Each(func(pl pattern.Place, st pattern.Stroke) {
		there, ok := p.At(pl)
		all = all && ok && there == st
	})
	return all
}

// mayTune reports whether an edit makes sense where the steps are found from a tune.
func mayTune(e Edit) error {
	switch e.(type) {
	case Drop, Join, Note:
		return nil
	}
	return fmt.Errorf("the steps of this ladder are the stations of the melody. Change the melody, or where its notes are played")
}
