package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/bpm"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/say"
)

// umbrella is an invented song of five steps at 80.
func umbrella() plan.Song {
	sg := plan.Song{ID: 1, Tempo: 80, Beats: 64}
	for _, name := range []string{"thumb on 1", "thumb on every beat", "thumb alternates", "a finger between", "two between"} {
		sg.Steps = append(sg.Steps, plan.Step{Name: name, Goal: 80, Usual: 8})
	}
	return sg
}

// The people of a lesson, by id from 1.
var people = []string{"Ilse", "Tomas", "Nadia", "Ruth", "Wim", "Pia", "Jonas", "Lotte", "Oskar"}

func idOf(name string) int64 { return int64(slices.Index(people, name) + 1) }

// says is a line with the names of the nine.
func says(l say.Line) string {
	return plan.Words.SayTo(l, say.Names{Person: func(id int64) string { return people[id-1] }, Song: func(int64) string { return "Umbrella" }})
}

// nine are the people of a lesson, a week after what was heard of them last.
func nine() plan.Class {
	c := plan.Class{Songs: []plan.Song{umbrella()}, Today: 100}
	id := int64(0)
	add := func(name string, step int, tries ...practice.Try) {
		for i := range tries {
			id++
			tries[i].ID = id
		}
		c.Students = append(c.Students, plan.Student{ID: idOf(name), Minutes: 15, Places: []plan.Place{{Song: 0, Step: step, Tries: tries}}})
	}
	clean := func(day, tempo int) practice.Try { return practice.Try{Day: day, Tempo: tempo, Clean: true} }
	add("Ilse", 3, clean(79, 80), clean(86, 80), clean(93, 82))
	add("Tomas", 2, clean(86, 60), clean(93, 68))
	add("Nadia", 2, clean(86, 62), practice.Try{Day: 93, Tempo: 66})
	add("Ruth", 0, clean(86, 50), clean(93, 58))
	add("Wim", 1, clean(86, 64), clean(93, 72))
	add("Pia", 3, clean(86, 72), clean(93, 76))
	add("Jonas", 0)
	add("Lotte", 2, clean(79, 60), practice.Try{Day: 86, Tempo: 64}, practice.Try{Day: 93, Tempo: 62})
	add("Oskar", 1, clean(60, 80), clean(65, 80), clean(70, 80))
	return c
}

// A lesson of 45 minutes for nine: what common practice has in one, in its order, with
// a rest before the hands have played for longer than 25 minutes.
func TestALessonForNine(t *testing.T) {
	l := plan.NewLesson(nine(), 45, nil)
	var kinds []plan.Kind
	for _, p := range l.Pieces {
		kinds = append(kinds, p.Kind)
		assert.NotEqual(t, "A change", says(p.Does), p.Kind)
		assert.NotEqual(t, "A change", says(p.Why), p.Kind)
	}
	assert.Equal(t, []plan.Kind{plan.Tune, plan.WarmUp, plan.LastTime, plan.NewThing, plan.Rest, plan.Groups, plan.Together, plan.TakeHome}, kinds)
	last, fresh, groups, together := l.Pieces[2], l.Pieces[3], l.Pieces[5], l.Pieces[6]
	assert.Contains(t, says(last.Why), "Nadia and Lotte: not clean last time")
	assert.Contains(t, says(fresh.Does), "step 5, two between")
	assert.Contains(t, says(fresh.Why), "Ilse (clean 3 times at 80 or above, on 3 days)")
	assert.Equal(t, 48, together.Tempo, "nothing was heard of Jonas: slow for him")
	seen := map[int64]bool{}
	minutes := 0
	for _, g := range groups.Groups {
		minutes += g.Minutes
		assert.False(t, g.Meanwhile.IsZero())
		for _, m := range g.People {
			assert.False(t, seen[m.ID], "%s sits in two groups", people[m.ID-1])
			seen[m.ID] = true
		}
	}
	assert.Len(t, seen, 9)
	assert.Equal(t, groups.Minutes, minutes)
	assert.LessOrEqual(t, len(groups.Groups), 4)
}

// Who is away is in no group, and the rest is planned for those who came.
func TestRegroupedForWhoCame(t *testing.T) {
	c := nine()
	for i := range c.Students {
		c.Students[i].Away = c.Students[i].ID == idOf("Jonas") || c.Students[i].ID == idOf("Ilse")
	}
	l := plan.NewLesson(c, 45, nil)
	for _, p := range l.Pieces {
		assert.NotContains(t, says(p.Why), "Jonas")
		for _, g := range p.Groups {
			for _, m := range g.People {
				assert.NotContains(t, []string{"Jonas", "Ilse"}, people[m.ID-1])
			}
		}
	}
	assert.Equal(t, say.ID("why/nobody-ready"), l.Pieces[3].Why.ID)
}

// An item that names entries depends on them: without them it, or its reason, is another.
func TestWithoutItsEntriesAnItemChanges(t *testing.T) {
	c := nine()
	whole := plan.NewLesson(c, 45, nil)
	named := 0
	for i, p := range whole.Pieces {
		for _, id := range p.Because {
			named++
			without := plan.NewLesson(drop(c, id), 45, nil).Pieces[i]
			assert.NotEqual(t, p, without, "%s names entry %d and does not need it", p.Kind, id)
		}
		if len(p.Because) > 0 {
			p.Because = nil
			without := plan.NewLesson(drop(c, whole.Pieces[i].Because...), 45, nil).Pieces[i]
			without.Because = nil
			assert.NotEqual(t, p, without, "%s says the same of nothing", p.Kind)
		}
	}
	assert.Greater(t, named, 10)
}

// drop takes entries out of a class's log.
func drop(c plan.Class, ids ...int64) plan.Class {
	c.Students = slices.Clone(c.Students)
	for i, st := range c.Students {
		places := slices.Clone(st.Places)
		for k := range places {
			places[k].Tries = slices.DeleteFunc(slices.Clone(places[k].Tries), func(t practice.Try) bool { return slices.Contains(ids, t.ID) })
		}
		c.Students[i].Places = places
	}
	return c
}

// What was not reached comes first the next time.
func TestWhatWasLeftRollsForward(t *testing.T) {
	c := nine()
	c.Left = []plan.Left{{Kind: plan.NewThing, Song: 0, Step: 4, Day: 93}}
	p := plan.NewLesson(c, 45, nil).Pieces[2]
	assert.Equal(t, plan.LastTime, p.Kind)
	assert.Equal(t, 4, p.Step)
	assert.Equal(t, "“something new” was not reached in the last lesson, 7 days ago", says(p.Why))
}

// No changes while the tone is uneven: common practice.
func TestUnevenStaysOnOneChord(t *testing.T) {
	c := nine()
	tries := c.Students[7].Places[0].Tries
	tries[len(tries)-1].Fault = fault.Uneven
	said := 0
	for _, g := range plan.NewLesson(c, 45, nil).Pieces[5].Groups {
		for _, m := range g.People {
			if m.ID == idOf("Lotte") {
				said++
				assert.Equal(t, say.Of("meanwhile/uneven"), g.Meanwhile)
			}
		}
	}
	assert.Equal(t, 1, said)
}

// With a concert a step that is nearly clean is left when its share of the days is used
// up; without one, or for a tense hand, it is not.
func TestAConcertHurries(t *testing.T) {
	c := nine()
	wim := func() string {
		for _, g := range plan.NewLesson(c, 45, nil).Pieces[5].Groups {
			for _, m := range g.People {
				if m.ID == idOf("Wim") { // clean at 72 of 80, two weeks on the step
					return string(m.Kind) + ": " + says(m.Why)
				}
			}
		}
		return ""
	}
	assert.Equal(t, "stay: clean at 72, goal 80", wim())
	c.Songs[0].Concert = c.Today + 28
	assert.Equal(t, "move-on: close: clean at 72, with 28 days left for 3 steps", wim())
	c.Songs[0].Concert = c.Today + 200
	assert.Contains(t, wim(), "stay", "there is time")
	c.Songs[0].Concert = c.Today + 28
	c.Students[4].Tense = true
	assert.Contains(t, wim(), "tension was noted")
}

// Tension: softer, no faster, and the hand rests.
func TestTensionComesFirst(t *testing.T) {
	c := nine()
	c.Students[0].Tense = true
	l := plan.NewLesson(c, 45, nil)
	assert.Equal(t, say.Of("why/tense", say.Several([]say.Arg{say.Person(idOf("Ilse"))})), l.Pieces[1].Why)
	assert.NotContains(t, says(l.Pieces[3].Why), "ready for it: Ilse")
	w := plan.NewWeek(c, 0)
	assert.Contains(t, w.Cautions[0], "doctor or a physiotherapist")
	first := w.Days[0].Tasks
	for _, d := range w.Days {
		for i, task := range d.Tasks {
			assert.LessOrEqual(t, task.Tempo, first[i].Tempo, "not faster later in the week")
		}
	}
}

// anyClass draws a class.
func anyClass(rt *rapid.T) plan.Class {
	songs := rapid.IntRange(0, 3).Draw(rt, "songs")
	c := plan.Class{Today: 100}
	for range songs {
		sg := plan.Song{ID: 1, Tempo: rapid.IntRange(40, 160).Draw(rt, "tempo"), Beats: rapid.IntRange(0, 300).Draw(rt, "beats")}
		for range rapid.IntRange(1, 12).Draw(rt, "steps") {
			sg.Steps = append(sg.Steps, plan.Step{Name: "x", Goal: rapid.IntRange(30, sg.Tempo).Draw(rt, "goal"), Usual: rapid.IntRange(3, 42).Draw(rt, "usual")})
		}
		c.Songs = append(c.Songs, sg)
	}
	id := int64(0)
	for i := range rapid.IntRange(0, 30).Draw(rt, "students") {
		st := plan.Student{ID: int64(i + 1), Away: rapid.Bool().Draw(rt, "away"), Tense: rapid.IntRange(0, 9).Draw(rt, "tense") == 0,
			Minutes: rapid.IntRange(practice.MinDay, practice.MaxDay).Draw(rt, "minutes"), Before: rapid.IntRange(0, 60).Draw(rt, "before")}
		for range rapid.IntRange(0, 2).Draw(rt, "drills") {
			st.Drills = append(st.Drills, plan.Drill{What: "bar 3", Minutes: rapid.IntRange(3, 60).Draw(rt, "drill")})
		}
		for song := range c.Songs {
			p := plan.Place{Song: song, Step: rapid.IntRange(0, len(c.Songs[song].Steps)-1).Draw(rt, "step")}
			for range rapid.IntRange(0, 6).Draw(rt, "tries") {
				id++
				p.Tries = append(p.Tries, practice.Try{ID: id, Day: rapid.IntRange(0, 100).Draw(rt, "day"), Tempo: rapid.IntRange(bpm.Min, 200).Draw(rt, "tried"), Clean: rapid.Bool().Draw(rt, "clean"),
					Fault: rapid.SampledFrom([]fault.Fault{"", fault.Stopped, fault.Uneven}).Draw(rt, "fault"), Bar: rapid.IntRange(0, 8).Draw(rt, "bar")})
			}
			slices.SortStableFunc(p.Tries, func(a, b practice.Try) int { return a.Day - b.Day })
			st.Places = append(st.Places, p)
		}
		c.Students = append(c.Students, st)
	}
	return c
}

// Whatever the class and the minutes: a lesson adds up exactly, every piece has its
// reason, no stretch of playing is longer than 25 minutes, and each of those who came
// sits in one group or none.
func TestPromisesOfALesson(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		c, minutes := anyClass(rt), rapid.IntRange(plan.MinLesson, plan.MaxLesson).Draw(rt, "lesson")
		l := plan.NewLesson(c, minutes, nil)
		sum, played := 0, 0
		var kept []int
		for _, p := range l.Pieces {
			if sum += p.Minutes; p.Minutes < 1 || p.Does.IsZero() || p.Why.IsZero() {
				rt.Fatalf("%+v", p)
			}
			if played += p.Minutes; p.Kind == plan.Rest {
				played = 0
			}
			if played > 25 {
				rt.Fatalf("%d minutes without a rest: %+v", played, l.Pieces)
			}
			kept = append(kept, p.Minutes)
			visits := 0
			for _, g := range p.Groups {
				visits += g.Minutes
			}
			if len(p.Groups) > 0 && visits != p.Minutes {
				rt.Fatalf("groups of %d minutes in %d", visits, p.Minutes)
			}
		}
		if sum != minutes {
			rt.Fatalf("%d minutes in a lesson of %d", sum, minutes)
		}
		if len(kept) > 1 {
			at, by := rapid.IntRange(-1, len(kept)).Draw(rt, "border"), rapid.IntRange(-9, 9).Draw(rt, "by")
			moved, err := plan.MoveBorder(kept, at, by)
			again := plan.NewLesson(c, minutes, moved)
			total := 0
			for i, p := range again.Pieces {
				if total += p.Minutes; p.Minutes != moved[i] || p.Minutes < 1 {
					rt.Fatalf("moved to %v (%v), planned %+v", moved, err, again.Pieces)
				}
			}
			if total != minutes {
				rt.Fatalf("%d after a border was moved", total)
			}
		}
	})
}

// Whatever the student: the tasks of each day add up to the day's minutes, the days are
// the week's, tempos stay within the goal, and a leap in minutes is said.
func TestPromisesOfAWeek(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		c := anyClass(rt)
		if len(c.Students) == 0 {
			return
		}
		at := rapid.IntRange(0, len(c.Students)-1).Draw(rt, "student")
		w := plan.NewWeek(c, at)
		day := 0
		for _, d := range w.Days {
			if d.From != day+1 {
				rt.Fatalf("day %d is left out", day+1)
			}
			day = d.To
			sum := 0
			for _, task := range d.Tasks {
				if sum += task.Minutes; task.Minutes < 1 || task.Does.IsZero() || task.Why.IsZero() || task.Repeats < 0 {
					rt.Fatalf("%+v", task)
				}
			}
			if sum != w.Minutes {
				rt.Fatalf("%d minutes on a day of %d", sum, w.Minutes)
			}
		}
		if day != 7 {
			rt.Fatalf("a week of %d days", day)
		}
		if w.Minutes > 25*w.Sittings {
			rt.Fatalf("%d minutes in %d sittings", w.Minutes, w.Sittings)
		}
		st := c.Students[at]
		leap := slices.ContainsFunc(w.Cautions, func(s string) bool { return s[:4] == "From" })
		if want := st.Before > 0 && 5*st.Minutes > 6*st.Before; leap && !want {
			rt.Fatalf("a caution from %d to %d", st.Before, st.Minutes)
		}
	})
}

// More than a fifth more is a leap: a rule of thumb, from memory.
func TestALeapInMinutesIsSaid(t *testing.T) {
	c := nine()
	c.Students[0].Before, c.Students[0].Minutes = 10, 20
	assert.Equal(t, []string{"From 10 to 20 minutes a day is more than a fifth more: 12 this week, and more week by week."}, plan.NewWeek(c, 0).Cautions)
	c.Students[0].Minutes = 12
	assert.Empty(t, plan.NewWeek(c, 0).Cautions)
	c.Students[0].Minutes = 15
	assert.Equal(t, 1, plan.NewWeek(c, 0).Sittings, "ten minutes once or twice a day: common practice")
	c.Students[0].Minutes = 20
	assert.Equal(t, 2, plan.NewWeek(c, 0).Sittings)
}

// What grows rusty is due back, on some days of the week and not on all.
func TestWhatGrowsRustyReturns(t *testing.T) {
	c := nine()
	w := plan.NewWeek(c, 8) // Oskar, thirty days after
	with := 0
	for _, d := range w.Days {
		for _, task := range d.Tasks {
			if task.Kind == plan.TaskReview {
				with++
				assert.Equal(t, []int64{c.Students[8].Places[0].Tries[2].ID}, task.Because)
			}
		}
	}
	assert.Equal(t, 2, with)
	assert.Less(t, with, len(w.Days))
}
