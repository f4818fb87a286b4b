package lesson

import (
	"cmp"
	"context"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// planning is a class with the ladders on its desk, as package plan takes it.
type planning struct {
	plan.Class
	on      people.Class
	ladders []ladders.Ladder       // by song
	failing []answer.Failing       // on the desk, too, but they cannot be computed
	series  *patterns.SeriesOnTerm // nil for none
	heard   bool                   // something was logged
}

// planClass reads what plans are made from. A plan has people and songs by id: what is kept of one
// names nobody.
func (t *Room) planClass(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (p planning, err error) {
	p.on = c
	all, err := t.Ladders.LaddersNow(ctx, teacher, c)
	if err != nil {
		return p, err
	}
	heard, err := t.Store.HeardNow(ctx, teacher, c.ID, ladders.Since(now), now) // who is to stay is the desk’s affair
	if err != nil {
		return p, err
	}
	if p.series, err = t.Patterns.SeriesOf(ctx, teacher, c, now); err != nil {
		return p, err
	}
	p.Today = ladders.DayOf(now)
	for _, l := range all {
		var sg plan.Song
		if failing := t.Computes(l.ID, l.SongTitle, func() { t.Ladders.Measure(&l); sg = t.PlanSong(l) }); failing != nil {
			p.failing = append(p.failing, *failing)
			continue
		}
		p.ladders, p.Songs = append(p.ladders, l), append(p.Songs, sg)
	}
	p.heard = len(heard.Tries) > 0
	of := ladders.TriesOf(heard.Tries)
	for _, st := range c.Students {
		p.Students = append(p.Students, p.student(st, of[st.ID], heard.Tense[st.ID], now))
	}
	return p, nil
}

// PlanSong is a ladder as a plan takes it.
func (t *Room) PlanSong(l ladders.Ladder) plan.Song {
	sg := answer.Keep(t.From, "plan song", l.Loaded, func() plan.Song {
		sg := plan.Song{ID: int64(l.ID), Tempo: l.Song.Tempo, Concert: l.ConcertDay()}
		for _, bar := range l.Song.Part(l.Sections).Bars() {
			sg.Beats += l.Song.MeterOf(bar).TappedBeats()
		}
		for i, s := range l.Steps {
			below := 0.0
			if i > 0 {
				below = l.Steps[i-1].Level
			}
			sg.Steps = append(sg.Steps, plan.Step{Name: ladder.Describe(l.Steps, i, l.Task).Name, Goal: s.Goal(sg.Tempo), Usual: practice.Usual(s.Level - below), Level: s.Level})
		}
		return sg
	})
	return sg
}

// leap is how long more minutes a day are news.
const leap = 7 * 24 * time.Hour

func (p planning) student(st store.Student, heard []store.Entry, tense bool, now time.Time) plan.Student {
	out := plan.Student{ID: int64(st.ID), Tense: tense, Minutes: st.DayMinutes}
	if now.Sub(st.MinutesSince) < leap {
		out.Before = st.BeforeMinutes
	}
	for i, l := range p.ladders {
		at := ladder.Find(l.Steps, l.Places[st.ID])
		if at < 0 {
			continue
		}
		place := plan.Place{Song: i, Step: at}
		for _, e := range heard {
			if e.LadderID == l.ID && e.Step.ID == l.Steps[at].ID {
				place.Tries = append(place.Tries, l.TryOf(e))
			}
		}
		out.Places = append(out.Places, place)
	}
	return out
}

// front puts a ladder before the others: the song that a plan begins with.
func (p *planning) front(id ref.Ladder) {
	i := slices.IndexFunc(p.ladders, func(l ladders.Ladder) bool { return l.ID == id })
	if i < 1 {
		return
	}
	l, sg := p.ladders[i], p.Songs[i]
	p.ladders = slices.Insert(slices.Delete(slices.Clone(p.ladders), i, i+1), 0, l)
	p.Songs = slices.Insert(slices.Delete(slices.Clone(p.Songs), i, i+1), 0, sg)
	for k := range p.Students {
		for m := range p.Students[k].Places {
			switch place := &p.Students[k].Places[m]; {
			case place.Song == i:
				place.Song = 0
			case place.Song < i:
				place.Song++
			}
		}
	}
}

// Who and what is not there any more.
const (
	goneName  = "someone who has left"
	goneTitle = "a song that’s gone"
)

// named says the lines of a plan with the names of a class and its songs.
type named struct{ say.Names }

func namesOf(c people.Class, titles map[ref.Ladder]string) named {
	return named{say.Names{
		Person: func(id int64) string {
			if st, here := c.Student(ref.Student(id)); here {
				return st.Name
			}
			return goneName
		},
		Song: func(id int64) string { return cmp.Or(titles[ref.Ladder(id)], goneTitle) },
	}}
}

func (n named) says(l say.Line) string { return plan.Words.SayTo(untagged(l), n.Names) }

// tag is where a sentence that was stored before there were lines has somebody ("{p3}") or a
// song ("{l7}").
var tag = regexp.MustCompile(`\{([pl])(\d+)\}`)

// untagged is a line whose tags are people and songs by id.
func untagged(l say.Line) say.Line {
	if l.ID != say.Plain || len(l.Args) != 1 {
		return l
	}
	text, at := l.Args[0].Text, 0
	l.Args = nil
	for _, m := range tag.FindAllStringSubmatchIndex(text, -1) {
		l.Args = append(l.Args, say.Arg{Text: text[at:m[0]]})
		id, _ := strconv.ParseInt(text[m[4]:m[5]], 10, 64) // digits; one that is too long is nobody's
		if text[m[2]] == 'p' {
			l.Args = append(l.Args, say.Person(id))
		} else {
			l.Args = append(l.Args, say.Song(id))
		}
		at = m[1]
	}
	l.Args = append(l.Args, say.Arg{Text: text[at:]})
	return l
}

// titlesOf are the titles of ladders' songs.
func titlesOf(ladders []ladders.Ladder) map[ref.Ladder]string {
	titles := map[ref.Ladder]string{}
	for _, l := range ladders {
		titles[l.ID] = l.SongTitle
	}
	return titles
}

// Paces reads how long finished steps took each student: from one decision to the next on
// the same ladder.
func Paces(decisions []store.Decision, all []ladders.Ladder) map[ref.Student]practice.Pace {
	type on struct {
		student ref.Student
		ladder  ref.Ladder
	}
	since, took := map[on]store.Decision{}, map[ref.Student][]practice.Took{}
	for _, d := range decisions {
		at := on{d.StudentID, d.LadderID}
		before, known := since[at]
		since[at] = d
		i := slices.IndexFunc(all, func(l ladders.Ladder) bool { return l.ID == d.LadderID })
		if !known || before.To != d.Step || i < 0 || d.Kind != practice.MoveOn && d.Kind != practice.Jump {
			continue
		}
		if k := ladder.Find(all[i].Steps, d.Step); k >= 0 {
			below := 0.0
			if k > 0 {
				below = all[i].Steps[k-1].Level
			}
			took[d.StudentID] = append(took[d.StudentID], practice.Took{Days: max(1, ladders.DayOf(d.At)-ladders.DayOf(before.At)), Usual: practice.Usual(all[i].Steps[k].Level - below)})
		}
	}
	by := map[ref.Student]practice.Pace{}
	for id, list := range took {
		by[id] = practice.PaceOf(list)
	}
	return by
}

// byName orders students for a register.
func byName(list []store.Student) []store.Student {
	list = slices.Clone(list)
	slices.SortStableFunc(list, func(a, b store.Student) int {
		return cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name))
	})
	return list
}

// since fills in when students came to the steps on which they stand, where that was decided.
func (p *planning) since(decisions []store.Decision) {
	for i := range p.Students {
		for k := range p.Students[i].Places {
			place := &p.Students[i].Places[k]
			l := p.ladders[place.Song]
			for _, d := range decisions {
				if int64(d.StudentID) == p.Students[i].ID && d.LadderID == l.ID && d.To == l.Steps[place.Step].ID && d.Step != d.To {
					place.Since = ladders.DayOf(d.At)
				}
			}
		}
	}
}
