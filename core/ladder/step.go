package ladder

import (
	"fmt"
	"slices"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/ladder/order"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/variation"
)

// StepID names a step of one ladder through every edit, move, undo and redo.
// The zero value names none.
type StepID int

// Step is one rung of a ladder: a pattern that adds one named thing to the
// step below. All steps share bars and beats with the target, so a class plays
// them together.
type Step struct {
	ID      StepID
	Pattern pattern.Pattern
	Adds    []Thing         // the one new thing; several where steps were joined
	Over    Over            // the chords
	Play    difficulty.Play // before the strings, or on them
	Pace    int             // the step's goal in per cent of the song's; 0 is all of it
	Level   float64         // of the difficulty; 0 when it was not measured
	Pinned  bool            // stays when the rest is rebuilt
	Remark  string          // of the teacher, one line
	Home    bool            // cannot be played together with the class
	// Parts are the figures of parts of the song that have one of their own, in the
	// order of the target's.
	Parts []difficulty.Figure
	// Station is what is played where the step is one of a tune: its pattern is then only the bar
	// that shows what is new, on the strings on which it lies.
	Station station.ID
}

// Thing is what a step adds: a rule's, or one of the ladder's own.
type Thing struct {
	Rule  variation.ID `json:"rule,omitempty"`
	Stage Stage        `json:"stage,omitempty"`
	Short bool         `json:"short,omitempty"` // a step put in between: all but this, or a part of it
	Part  int          `json:"part,omitempty"`  // whose figure it is about: 1 for the first of the step's parts; 0 for its pattern
}

// Over is the chords that a step is on.
type Over string

// The chords of a step, from few to many.
const (
	OneChord      Over = "one-chord"
	TwoChords     Over = "two-chords"
	TwoChordsABar Over = "two-chords-a-bar" // the same two, a bar each
	AllChords     Over = "all-chords"
)

// OverNames are their words.
var OverNames = []struct {
	Over Over
	Name string
}{{OneChord, "one chord"}, {TwoChords, "two chords"}, {TwoChordsABar, "two chords, a bar each"}, {AllChords, "all chords"}}

// SomeChords is the first n chords of the song, in the bars that sound with them.
func SomeChords(n int) Over { return Over(fmt.Sprintf("%d-chords", n)) }

// chords is how many a stage of some chords has, 0 for the others.
func (o Over) Chords() (n int) {
	if _, err := fmt.Sscanf(string(o), "%d-chords", &n); err != nil || n < 3 {
		return 0
	}
	return n
}

// String is what it is called.
func (o Over) String() string {
	if n := o.Chords(); n > 0 {
		return fmt.Sprintf("%d chords", n)
	}
	for _, n := range OverNames {
		if n.Over == o {
			return n.Name
		}
	}
	return OverNames[len(OverNames)-1].Name
}

// Goal is the step's goal tempo where the song's is given.
func (s Step) Goal(tempo int) int {
	if s.Pace == 0 {
		return tempo
	}
	return bpm.Part(tempo, s.Pace)
}

// Tempos are slow, medium and goal of the step on a song: all are taken from the
// song's goal once, so that a step that is itself slow is not slowed again.
func (s Step) Tempos(tempo int) bpm.Tempos {
	goal, of := s.Goal(tempo), bpm.Of(tempo)
	return bpm.Tempos{Slow: min(of.Slow, goal), Medium: min(of.Medium, goal), Goal: goal}
}

// BeforeStrings reports a step that needs no instrument.
func (s Step) BeforeStrings() bool {
	return s.Play == difficulty.Said || s.Play == difficulty.Tapped || s.Play == difficulty.Swings
}

// Same reports the same thing to play: pattern, chords, way and pace.
func (s Step) Same(o Step) bool {
	return s.Pattern.Equal(o.Pattern) && s.Station == o.Station && s.Over == o.Over && s.Play == o.Play && s.Pace == o.Pace && slices.EqualFunc(s.Parts, o.Parts, sameFigure)
}

func sameFigure(a, b difficulty.Figure) bool {
	return a.Pattern.Equal(b.Pattern) && slices.Equal(a.Sections, b.Sections)
}

// Brings reports that a step adds a thing of the ladder's own.
func (s Step) Brings(stage Stage) bool { return slices.Contains(s.Adds, Thing{Stage: stage}) }

// Numbered gives ids to steps that have none, from next on, and returns the next
// free one.
func Numbered(steps []Step, next int) ([]Step, int) {
	steps = slices.Clone(steps)
	next = max(next, 1)
	for _, s := range steps {
		next = max(next, int(s.ID)+1)
	}
	for i := range steps {
		if steps[i].ID == 0 {
			steps[i].ID = StepID(next)
			next++
		}
	}
	return steps, next
}

// Find is the place of a step, -1 for one that is not there.
func Find(steps []Step, id StepID) int {
	return slices.IndexFunc(steps, func(s Step) bool { return s.ID == id && id != 0 })
}

// Task is what the step asks, where t is the target on its song: its pattern on
// the chords of its stage, in its way, at its goal.
func (s Step) Task(t difficulty.Task) difficulty.Task { return SettingOf(t).Task(s) }

// ChordNames names the chords of a step's stage in order, each run once; of a long
// song every chord once.
func (s Step) ChordNames(t difficulty.Task) []string {
	const many = 8
	var names, different []string
	for _, bar := range barsOfStage(s, t) {
		for _, ch := range bar.Changes {
			if n := len(names); n == 0 || names[n-1] != ch.Symbol {
				names = append(names, ch.Symbol)
			}
			if !slices.Contains(different, ch.Symbol) {
				different = append(different, ch.Symbol)
			}
		}
	}
	if len(names) > many {
		names = different
	}
	return names
}

// barsOfStage are the bars of a step's stage: of some chords as they are sung, else as
// they are written.
func barsOfStage(s Step, t difficulty.Task) []song.Bar {
	if s.Over.Chords() > 0 {
		return sungBars(s.Task(t))
	}
	return s.Task(t).Bars
}

// Stage is the different chords that a step is on, as they are written; nil where
// it is on all of the song's.
func (s Step) Stage(t difficulty.Task) (symbols []string) {
	if s.Over == AllChords || s.Over == "" {
		return nil
	}
	for _, bar := range sungBars(s.Task(t)) {
		for _, ch := range bar.Changes {
			if !slices.Contains(symbols, ch.Symbol) {
				symbols = append(symbols, ch.Symbol)
			}
		}
	}
	return symbols
}

// LevelAt is how hard a step is at a tempo other than its goal, as when it was
// played clean more slowly. The task is the target on its song.
func (s Step) LevelAt(tempo int, t difficulty.Task, w difficulty.Weights) float64 {
	t = s.Task(t)
	goal := t
	t.Tempo = tempo
	if s.Station != "" { // its level is that of the whole tune; the tempo does to it what it does to the bar that is shown
		return min(10, max(1, s.Level+difficulty.LevelOf(t, w)-difficulty.LevelOf(goal, w)))
	}
	return difficulty.LevelOf(t, w)
}

// Reach is the step, from 0, on which somebody begins who has played something of
// a level clean: the hardest that is no harder than that, else the first.
func Reach(steps []Step, level float64) int {
	at := 0
	for i, s := range steps {
		if s.Level <= level {
			at = i
		}
	}
	return at
}

// Measured is the steps with the levels that they have on the task now: a song
// may have got another key, another shape, or a class other weights. A station keeps the level
// that core/arrange gave it.
func Measured(steps []Step, t difficulty.Task, w difficulty.Weights) []Step {
	out := slices.Clone(steps)
	setting := SettingOf(t)
	for i := range out {
		if out[i].Station != "" {
			continue
		}
		out[i].Level = difficulty.LevelOf(setting.Task(out[i]), w)
	}
	return out
}

// Ladder is the steps of one, the easiest first, with what the teacher chose, by which they
// are rebuilt. Next is the next id that no step has had.
type Ladder struct {
	order.Choice
	Steps []Step
	Next  int
	Begin Beginning
	// Tune is which of the song's tunes a ladder of a tune is for.
	Tune song.TuneID
}

// MaxSteps bounds a ladder.
const MaxSteps = 40

// MaxRemark is how long a line on a step can be, in letters.
const MaxRemark = 200
