package plan

import (
	"slices"

	"arplin/core/practice"
	"arplin/core/say"
)

// Class is what a plan is made for. Songs and steps are counted from 0 within it.
type Class struct {
	Songs    []Song // those that it is on; the one in front first
	Students []Student
	Left     []Left // what the last lesson did not reach
	New      *Left  // what was new in it, where it was reached
	First    bool   // there was no lesson before, and nothing has been heard
	Today    int    // the day of the lesson, as practice counts
}

// Song is a song with the steps of its ladder, the easiest first.
type Song struct {
	ID    int64 // of its ladder
	Tempo int   // the goal, in beats a minute
	Beats int   // of the whole song once, for how often a week repeats it
	Steps []Step
	// Concert is the day of the concert that the song is for, as practice counts; 0 where
	// there is none.
	Concert int
}

// Step is a step of a song.
type Step struct {
	Name  string
	Goal  int
	Usual int // days that it usually takes
	Level float64
}

// Student is one of the class.
type Student struct {
	ID      int64
	Away    bool
	Tense   bool // the last that was heard was with tension
	Minutes int  // of practice a day
	Before  int  // minutes a day until last week, 0 where that is not known
	Places  []Place
	Pace    practice.Pace
	Drills  []Drill
}

// Place is where a student stands on a song, with the tries on that step.
type Place struct {
	Song, Step int
	Tries      []practice.Try
	Since      int // the day on which they came to the step; 0 where only the tries say that
}

// Drill is a drill that a student has on the week.
type Drill struct {
	What    string
	Minutes int
}

// Left is a piece of the last lesson that was not reached, or cut.
type Left struct {
	Kind       Kind
	Song, Step int
	Day        int
}

// standing is a student on a song as the practice model reads it.
type standing struct {
	*Student
	Place
	practice.Standing
	practice.Decision
}

// reading is a class with what the model says of each place, computed once.
type reading struct {
	Class
	on [][]standing // by song: those who are there, in the order of the class
}

func read(c Class) reading {
	r := reading{c, make([][]standing, len(c.Songs))}
	for i := range c.Students {
		st := &c.Students[i]
		for _, p := range st.Places {
			if st.Away || p.Song < 0 || p.Song >= len(c.Songs) || p.Step < 0 || p.Step >= len(c.Songs[p.Song].Steps) {
				continue
			}
			sg := c.Songs[p.Song]
			stand, d := On{p.Tries, sg.Steps[p.Step].Goal, len(sg.Steps) - 1 - p.Step, sg.Concert, c.Today, st.Tense, sg.Steps[p.Step].Level, c.plays(*st)}.Decide()
			r.on[p.Song] = append(r.on[p.Song], standing{st, p, stand, d})
		}
	}
	return r
}

// plays is the hardest level that a student has behind them: the step under the one on which they
// stand, on the song where that is hardest.
func (c Class) plays(st Student) (level float64) {
	for _, p := range st.Places {
		if p.Song >= 0 && p.Song < len(c.Songs) && p.Step > 0 && p.Step < len(c.Songs[p.Song].Steps) {
			level = max(level, c.Songs[p.Song].Steps[p.Step-1].Level)
		}
	}
	return level
}

// step is a step of a song.
func (r reading) step(s standing) Step { return r.Songs[s.Song].Steps[s.Step] }

// leads is the step to which a decision leads; the same where it stays.
func (r reading) leads(s standing) int {
	return Leads(s.Kind, s.Step, len(r.Songs[s.Song].Steps)-1)
}

// Leads is the step to which a decision on a step leads, where last is the last of the ladder.
func Leads(kind practice.Kind, step, last int) int {
	switch kind {
	case practice.MoveOn:
		return min(last, step+1)
	case practice.Jump:
		return min(last, step+2)
	case practice.Ease:
		return max(0, step-1)
	}
	return step
}

// ready are those who are to go on.
func (r reading) ready(song int) []standing {
	return filter(r.on[song], func(s standing) bool { return r.leads(s) > s.Step })
}

// failing reports that the last try was not clean.
func (s standing) failing() bool {
	return len(s.Tries) > 0 && !s.Tries[len(s.Tries)-1].Clean
}

// safe is the tempo at which a student plays along today.
func (s standing) safe() int {
	if s.Now > 0 {
		return s.Now
	}
	return s.Next
}

func filter[T any](list []T, keep func(T) bool) []T {
	return slices.DeleteFunc(slices.Clone(list), func(x T) bool { return !keep(x) })
}

// names lists people in a sentence.
func names(list []standing) say.Arg {
	var all []say.Arg
	seen := map[int64]bool{}
	for _, s := range list {
		if !seen[s.ID] {
			seen[s.ID] = true
			all = append(all, s.said())
		}
	}
	return say.Several(all)
}

// said is somebody in a sentence.
func (s *Student) said() say.Arg { return say.Person(s.ID) }

// said is a song in a sentence.
func (s Song) said() say.Arg { return say.Song(s.ID) }

// stepName says a step by number and name.
func (r reading) stepName(song, step int) say.Line {
	return say.Of("step", step+1, r.Songs[song].Steps[step].Name)
}

// because collects the entries that decisions name.
func because(list ...standing) (ids []int64) {
	for _, s := range list {
		ids = append(ids, s.Because...)
	}
	slices.Sort(ids)
	return slices.Compact(ids)
}
