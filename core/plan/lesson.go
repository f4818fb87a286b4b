package plan

import (
	"cmp"
	"slices"

	"arplin/core/bpm"
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
	{Tune, "tune"}, {WarmUp, "warm-up"}, {LastTime, "review"}, {NewThing, "something new"},
	{Groups, "group work"}, {Rest, "rest"}, {Together, "the song"}, {TakeHome, "home practice"},
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
	Does    say.Line
	Why     say.Line
	Because []int64 // entries of the log
	Groups  []Group
}

// Group is who works on what while the teacher goes round.
type Group struct {
	People    []Member
	Step      int // the easiest of its people's
	Tempo     int
	Minutes   int      // with the teacher
	Meanwhile say.Line // what it does before and after
}

// Member is a student in a group, with what is proposed and why.
type Member struct {
	ID      int64
	Step    int
	Kind    practice.Kind
	Why     say.Line
	Because []int64
}

// NewLesson plans a lesson of some minutes. Kept are the minutes that the teacher gave
// the pieces, where the pieces are still the same ones.
func NewLesson(c Class, minutes int, kept []int) Lesson {
	minutes = min(MaxLesson, max(MinLesson, minutes))
	r := read(c)
	l := Lesson{Minutes: minutes}
	slots := band(minutes, c.without()...)
	if len(kept) == len(slots) && sum(kept) == minutes {
		for i := range slots {
			slots[i].minutes = kept[i]
		}
	}
	for i, s := range slots {
		p := r.piece(s)
		if i > 1 && slots[i-1].kind == Rest && slots[i-2].kind == s.kind {
			p.Why = say.Of("why/after-rest")
		}
		l.Pieces = append(l.Pieces, p)
	}
	return l
}

// without are the pieces that a class has no use for: at first there is no last time.
func (c Class) without() []Kind {
	if c.First {
		return []Kind{LastTime}
	}
	return nil
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
		p.Does, p.Why = say.Of("tune"), say.Of("why/tune")
	case WarmUp:
		r.warmUp(&p)
	case LastTime:
		r.lastTime(&p)
	case NewThing:
		r.newThing(&p)
	case Groups:
		r.groups(&p)
	case Rest:
		p.Does, p.Why = say.Of("rest"), say.Of("why/rest", longestPlay)
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
		p.Does, p.Why, p.Because = say.Of("warm-up/tense"), say.Of("why/tense", names(tense)), lastOf(tense...)
		return
	}
	if len(r.Songs) == 0 || len(r.on[0]) == 0 {
		p.Does, p.Why = say.Of("warm-up/open"), say.Of("why/nobody")
		return
	}
	lowest := slices.MinFunc(r.on[0], func(a, b standing) int { return a.Step - b.Step })
	p.Song, p.Step = 0, lowest.Step
	p.Tempo = max(bpm.Min, r.step(lowest).Goal*6/10)
	p.Does = say.Of("warm-up/step", r.stepName(0, lowest.Step))
	p.Why = say.Of("why/all-further", lowest.Step+1)
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
			p.Does = say.Of("song-step", r.Songs[left.Song].said(), r.stepName(left.Song, left.Step))
			p.Why = say.Of("why/not-reached", left.Kind.said(), ago(r.Today-left.Day))
			return
		}
	}
	all := r.everywhere()
	heard := filter(all, func(s standing) bool { return len(s.Tries) > 0 })
	for _, look := range []struct {
		keep func(standing) bool
		says say.ID
	}{
		{standing.failing, "why/failed"},
		{func(s standing) bool { return s.State == practice.Rusty }, "why/rusty"},
		{func(s standing) bool { return true }, "why/heard-last"},
	} {
		h := most(filter(heard, look.keep), here)
		if len(h.who) == 0 {
			continue
		}
		p.Song, p.Step, p.Because = h.song, h.step, lastOf(h.who...)
		slowest := slices.MinFunc(h.who, func(a, b standing) int { return cmp.Compare(a.Next, b.Next) })
		p.Tempo = slowest.Next
		p.Does = say.Of("last-time", r.Songs[h.song].said(), r.stepName(h.song, h.step))
		p.Why = say.Of(look.says, names(h.who), p.Tempo, slowest.said(), slowest.NextWhy)
		return
	}
	p.Does, p.Why = say.Of("last-time/form"), say.Of("why/nothing-heard")
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

func ago(days int) say.Line {
	switch {
	case days == 1:
		return say.Of("yesterday")
	case days < 14:
		return say.Of("days-ago", days)
	}
	return say.Of("weeks-ago", days/7)
}

// newThing is the step to which the most are ready to go.
func (r reading) newThing(p *Piece) {
	var ready []standing
	for song := range r.Songs {
		ready = append(ready, r.ready(song)...)
	}
	if h := most(ready, r.leads); len(h.who) > 0 && !r.again(h) {
		p.Song, p.Step, p.Because = h.song, h.step, because(h.who...)
		p.Tempo = slowStart(r.Songs[h.song].Steps[h.step].Goal)
		p.Does = say.Of("new", r.Songs[h.song].said(), r.stepName(h.song, h.step))
		p.Why = say.Of("why/ready", said(h.who))
		return
	}
	if h := most(r.everywhere(), here); len(h.who) > 0 {
		p.Song, p.Step = h.song, h.step
		if fresh := filter(h.who, func(s standing) bool { return s.State == practice.New }); 2*len(fresh) > len(h.who) && (r.New == nil || r.New.Song != h.song || r.New.Step < h.step) {
			p.Tempo = slowStart(r.Songs[h.song].Steps[p.Step].Goal)
			p.Does = say.Of("new", r.Songs[h.song].said(), r.stepName(h.song, p.Step))
			p.Why = say.Of("why/just-come", names(fresh))
			return
		}
		p.Step = min(h.step+1, len(r.Songs[h.song].Steps)-1)
		if r.goesOn(p) {
			return
		}
		p.Tempo = slowStart(r.Songs[h.song].Steps[p.Step].Goal)
		p.Does = say.Of("new/tapped", r.Songs[h.song].said(), r.stepName(h.song, p.Step))
		p.Why, p.Because = say.Of("why/nobody-ready", h.step+1, said(h.who)), because(h.who...)
		return
	}
	p.Does, p.Why = say.Of("new/placement"), say.Of("why/nobody")
}

// again reports what was new in the last lesson already: it is not new twice.
func (r reading) again(h heap) bool {
	return r.New != nil && r.New.Song == h.song && r.New.Step == h.step
}

// goesOn looks at what was new the last time: where half of those on the song can play it, the step
// after it is new, and else it comes once more, played, not only tapped.
func (r reading) goesOn(p *Piece) bool {
	n := r.New
	if n == nil || n.Song != p.Song || n.Step >= len(r.Songs[n.Song].Steps) || n.Step < p.Step {
		return false
	}
	on := r.on[n.Song]
	can := filter(on, func(s standing) bool {
		return s.Step > n.Step || s.Step == n.Step && s.Last > 0 || s.Step == n.Step-1 && (s.State == practice.Clean || s.State == practice.Secure)
	})
	p.Step = n.Step
	p.Does, p.Why = say.Of("new/again", r.Songs[n.Song].said(), r.stepName(n.Song, n.Step)), say.Of("why/not-half", len(can), len(on))
	if next := n.Step + 1; 2*len(can) >= len(on) && next < len(r.Songs[n.Song].Steps) {
		p.Step = next
		p.Does, p.Why = say.Of("new", r.Songs[n.Song].said(), r.stepName(n.Song, next)), say.Of("why/half-can", len(can), len(on), n.Step+1)
	}
	p.Tempo, p.Because = slowStart(r.Songs[n.Song].Steps[p.Step].Goal), lastOf(can...)
	return true
}

// slowStart is where a new step begins.
func slowStart(goal int) int { return practice.Stand(nil, goal, 0, false).Next }

// said lists people with what is said of each; who has the same reason is said with it once.
func said(list []standing) say.Arg {
	var all []say.Arg
	done := make([]bool, len(list))
	for i, s := range list {
		if done[i] {
			continue
		}
		var same []standing
		for k, o := range list[i:] {
			if o.Why.String() == s.Why.String() {
				same, done[i+k] = append(same, o), true
			}
		}
		with := say.Of("with-reason", names(same), s.Why)
		all = append(all, say.Arg{Line: &with})
	}
	return say.Several(all)
}

// together is the song, everybody on the own step, at a tempo that nobody falls out of.
func (r reading) together(p *Piece) {
	if len(r.Songs) == 0 || len(r.on[0]) == 0 {
		p.Does, p.Why = say.Of("song/sing"), say.Of("why/nobody")
		return
	}
	slowest := slices.MinFunc(r.on[0], func(a, b standing) int { return cmp.Compare(a.safe(), b.safe()) })
	p.Song = 0
	p.Tempo = min(r.Songs[0].Tempo, slowest.safe())
	p.Does = say.Of("song", r.Songs[0].said())
	if len(r.Songs) > 1 && len(r.on[1]) > 0 {
		p.Does = say.Of("song/then", r.Songs[0].said(), r.Songs[1].said())
	}
	if slowest.Now > 0 {
		p.Why, p.Because = say.Of("why/slowest-clean", p.Tempo, slowest.said(), slowest.Last, r.when(lastClean(slowest))), []int64{lastClean(slowest).ID}
		return
	}
	p.Why, p.Because = say.Of("why/slowest", p.Tempo, slowest.said(), slowest.NextWhy), lastOf(slowest)
}

func (r reading) when(t practice.Try) say.Line {
	if t.Day >= r.Today {
		return say.Of("today")
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
	p.Does = say.Of("take-home")
	var moved []standing
	for song := range r.Songs {
		moved = append(moved, filter(r.on[song], func(s standing) bool { return r.leads(s) != s.Step })...)
	}
	if len(moved) == 0 {
		p.Why = say.Of("why/as-before")
		return
	}
	p.Why, p.Because = say.Of("why/moved", names(moved)), because(moved...)
}
