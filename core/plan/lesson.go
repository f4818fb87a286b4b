package plan

import (
	"cmp"
	"fmt"
	"slices"

	"arplin/core/practice"
	"arplin/core/say"
)

// Kind is what a piece of a lesson is for.
type Kind string

// The pieces of a lesson.
const (
	Tune     Kind = "tune"
	WarmUp   Kind = "warm-up"
	LastTime Kind = "last-time"
	NewThing Kind = "new"
	Groups   Kind = "groups"
	Rest     Kind = "rest"
	Together Kind = "together"
	TakeHome Kind = "take-home"
)

// Kinds names them, in the order of a lesson.
var Kinds = []struct {
	Kind Kind
	Name string
}{
	{Tune, "tune"}, {WarmUp, "warm up"}, {LastTime, "last time"}, {NewThing, "new together"},
	{Groups, "in groups"}, {Rest, "rest"}, {Together, "the song"}, {TakeHome, "take home"},
}

// Name is what it is called.
func (k Kind) Name() string {
	for _, n := range Kinds {
		if n.Kind == k {
			return n.Name
		}
	}
	return string(k)
}

// Lesson is a planned lesson.
type Lesson struct {
	Minutes int
	Pieces  []Piece // their minutes add up to the lesson's
}

// Piece is a part of a lesson.
type Piece struct {
	Kind    Kind
	Minutes int
	Song    int // of the class; -1 where it is about none
	Step    int // of the song; -1 where it is about none
	Tempo   int // 0 where there is none
	Does    string
	Why     string
	Because []int64 // entries of the log
	Groups  []Group
}

// Group is who works on what while the teacher goes round.
type Group struct {
	People    []Member
	Step      int // the easiest of its people's
	Tempo     int
	Minutes   int    // with the teacher
	Meanwhile string // what it does before and after
}

// Member is a student in a group, with what is proposed and why.
type Member struct {
	ID      int64
	Name    string
	Step    int
	Kind    practice.Kind
	Why     string
	Because []int64
}

// NewLesson plans a lesson of some minutes. Kept are the minutes that the teacher gave
// the pieces, where the pieces are still the same ones.
func NewLesson(c Class, minutes int, kept []int) Lesson {
	minutes = min(MaxLesson, max(MinLesson, minutes))
	r := read(c)
	l := Lesson{Minutes: minutes}
	slots := band(minutes)
	if len(kept) == len(slots) && sum(kept) == minutes {
		for i := range slots {
			slots[i].minutes = kept[i]
		}
	}
	for i, s := range slots {
		p := r.piece(s)
		if i > 1 && slots[i-1].kind == Rest && slots[i-2].kind == s.kind {
			p.Why = "goes on after the rest"
		}
		l.Pieces = append(l.Pieces, p)
	}
	return l
}

func sum(list []int) (n int) {
	for _, x := range list {
		n += x
	}
	return n
}

// piece fills a slot of the band.
func (r reading) piece(s slot) Piece {
	p := Piece{Kind: s.kind, Minutes: s.minutes, Song: -1, Step: -1}
	switch s.kind {
	case Tune:
		p.Does, p.Why = "Tune, thickest string first; say its name before plucking it.", "first of all: out of tune, nobody hears what is wrong"
	case WarmUp:
		r.warmUp(&p)
	case LastTime:
		r.lastTime(&p)
	case NewThing:
		r.newThing(&p)
	case Groups:
		r.groups(&p)
	case Rest:
		p.Does, p.Why = "Hands down, shoulders loose. Say the form, sing the song, or hear somebody alone.", fmt.Sprintf("the hands play no longer than %d minutes without a rest", longestPlay)
	case Together:
		r.together(&p)
	case TakeHome:
		r.takeHome(&p)
	}
	return p
}

// everywhere is every place of everybody who is there.
func (r reading) everywhere() []standing { return slices.Concat(r.on...) }

// warmUp is the easiest step that somebody stands on: all who are there can play it.
func (r reading) warmUp(p *Piece) {
	if tense := filter(r.everywhere(), func(s standing) bool { return s.Tense }); len(tense) > 0 {
		p.Does, p.Why, p.Because = "Slow, soft strokes on open strings; shoulders low, shake the hands out.", "tension was noted for "+names(tense)+": begin softer than usual", lastOf(tense...)
		return
	}
	if len(r.Songs) == 0 || len(r.on[0]) == 0 {
		p.Does, p.Why = "A few slow, soft strokes on open strings, thumb first.", "nobody stands on a step yet"
		return
	}
	lowest := slices.MinFunc(r.on[0], func(a, b standing) int { return a.Step - b.Step })
	p.Song, p.Step = 0, lowest.Step
	p.Tempo = max(practice.MinTempo, r.step(lowest).Goal*6/10)
	p.Does = "All on " + r.stepName(0, lowest.Step) + ", softly, counting aloud."
	p.Why = fmt.Sprintf("everybody who is there stands on step %d or further", lowest.Step+1)
}

// heap is the students who share a step.
type heap struct {
	song, step int
	who        []standing
}

// most is the largest heap of standings by the step that is asked for; of two alike the
// first. Nobody is no heap.
func most(list []standing, step func(standing) int) (best heap) {
	var heaps []heap
	for _, s := range list {
		i := slices.IndexFunc(heaps, func(h heap) bool { return h.song == s.Song && h.step == step(s) })
		if i < 0 {
			heaps, i = append(heaps, heap{song: s.Song, step: step(s)}), len(heaps)
		}
		heaps[i].who = append(heaps[i].who, s)
	}
	for _, h := range heaps {
		if len(h.who) > len(best.who) {
			best = h
		}
	}
	return best
}

func here(s standing) int { return s.Step }

// lastTime is what was left, else what failed, else what grows rusty, else what was
// heard last.
func (r reading) lastTime(p *Piece) {
	for _, left := range r.Left {
		if left.Song >= 0 && left.Song < len(r.Songs) && left.Step >= 0 && left.Step < len(r.Songs[left.Song].Steps) {
			p.Song, p.Step = left.Song, left.Step
			p.Does = fmt.Sprintf("%s: %s.", r.Songs[left.Song].Title, r.stepName(left.Song, left.Step))
			p.Why = fmt.Sprintf("“%s” was not reached in the last lesson, %s", left.Kind.Name(), ago(r.Today-left.Day))
			return
		}
	}
	all := r.everywhere()
	heard := filter(all, func(s standing) bool { return len(s.Tries) > 0 })
	for _, look := range []struct {
		keep func(standing) bool
		says string
	}{
		{standing.failing, "%s: not clean the last time"},
		{func(s standing) bool { return s.State == practice.Rusty }, "%s: not played for three weeks or longer"},
		{func(s standing) bool { return true }, "%s: what was heard last"},
	} {
		h := most(filter(heard, look.keep), here)
		if len(h.who) == 0 {
			continue
		}
		p.Song, p.Step, p.Because = h.song, h.step, lastOf(h.who...)
		slowest := slices.MinFunc(h.who, func(a, b standing) int { return cmp.Compare(a.Next, b.Next) })
		p.Tempo = slowest.Next
		p.Does = fmt.Sprintf("%s: %s, together.", r.Songs[h.song].Title, r.stepName(h.song, h.step))
		p.Why = fmt.Sprintf(look.says+". At %d, for %s: %s", names(h.who), p.Tempo, slowest.Name, slowest.NextWhy)
		return
	}
	p.Does, p.Why = "Say the form and clap the count of the song.", "nothing was heard on these steps yet"
}

// lastOf are the last entries of some standings.
func lastOf(list ...standing) (ids []int64) {
	for _, s := range list {
		if n := len(s.Tries); n > 0 {
			ids = append(ids, s.Tries[n-1].ID)
		}
	}
	return ids
}

func ago(days int) string {
	switch {
	case days == 1:
		return "yesterday"
	case days < 14:
		return fmt.Sprintf("%d days ago", days)
	}
	return fmt.Sprintf("%d weeks ago", days/7)
}

// newThing is the step to which the most are ready to go.
func (r reading) newThing(p *Piece) {
	var ready []standing
	for song := range r.Songs {
		ready = append(ready, r.ready(song)...)
	}
	if h := most(ready, r.leads); len(h.who) > 0 {
		p.Song, p.Step, p.Because = h.song, h.step, because(h.who...)
		p.Tempo = slowStart(r.Songs[h.song].Steps[h.step].Goal)
		p.Does = fmt.Sprintf("%s: %s. On one chord, counting aloud; who is not ready plays the own step under it.", r.Songs[h.song].Title, r.stepName(h.song, h.step))
		p.Why = "ready for it: " + said(h.who)
		return
	}
	if h := most(r.everywhere(), here); len(h.who) > 0 {
		p.Song, p.Step = h.song, min(h.step+1, len(r.Songs[h.song].Steps)-1)
		p.Tempo = slowStart(r.Songs[h.song].Steps[p.Step].Goal)
		p.Does = fmt.Sprintf("%s: %s, said and tapped only, so that they know what comes; then everybody on the own step.", r.Songs[h.song].Title, r.stepName(h.song, p.Step))
		p.Why, p.Because = fmt.Sprintf("nobody is ready to go on; the most stand on step %d: %s", h.step+1, said(h.who)), because(h.who...)
		return
	}
	p.Does, p.Why = "Five minutes of figures from easy to hard, to find everybody’s step.", "nobody stands on a step yet"
}

// slowStart is where a new step begins.
func slowStart(goal int) int { return practice.Stand(nil, goal, 0, false).Next }

// said lists people with what is said of each.
func said(list []standing) string {
	var all []string
	for _, s := range list {
		all = append(all, s.Name+" ("+s.Why+")")
	}
	return say.And(all)
}

// together is the song, everybody on the own step, at a tempo that nobody falls out of.
func (r reading) together(p *Piece) {
	if len(r.Songs) == 0 || len(r.on[0]) == 0 {
		p.Does, p.Why = "Sing the song over the count.", "nobody stands on a step yet"
		return
	}
	slowest := slices.MinFunc(r.on[0], func(a, b standing) int { return cmp.Compare(a.safe(), b.safe()) })
	p.Song = 0
	p.Tempo = min(r.Songs[0].Tempo, slowest.safe())
	p.Does = fmt.Sprintf("%s from the beginning, everybody on the own step.", r.Songs[0].Title)
	if len(r.Songs) > 1 && len(r.on[1]) > 0 {
		p.Does += fmt.Sprintf(" Time left: %s.", r.Songs[1].Title)
	}
	if slowest.Now > 0 {
		p.Why, p.Because = fmt.Sprintf("at %d because %s was clean at %d %s; nobody is slower", p.Tempo, slowest.Name, slowest.Last, r.when(lastClean(slowest))), []int64{lastClean(slowest).ID}
		return
	}
	p.Why, p.Because = fmt.Sprintf("at %d, for %s: %s", p.Tempo, slowest.Name, slowest.NextWhy), lastOf(slowest)
}

func (r reading) when(t practice.Try) string {
	if t.Day >= r.Today {
		return "today"
	}
	return ago(r.Today - t.Day)
}

func lastClean(s standing) (last practice.Try) {
	for _, t := range s.Tries {
		if t.Clean {
			last = t
		}
	}
	return last
}

// takeHome is the sheets and the week.
func (r reading) takeHome(p *Piece) {
	p.Does = "Sheets and the week; the step, the tempo to begin at, how many minutes a day."
	var moved []standing
	for song := range r.Songs {
		moved = append(moved, filter(r.on[song], func(s standing) bool { return r.leads(s) != s.Step })...)
	}
	if len(moved) == 0 {
		p.Why = "everybody goes on where they are"
		return
	}
	p.Why, p.Because = "another sheet than last time: "+names(moved), because(moved...)
}
