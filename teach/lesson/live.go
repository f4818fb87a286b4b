package lesson

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/plan"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// What is done while a lesson runs.
const (
	LiveBegin  = "begin"
	LiveNext   = "next"
	LiveBack   = "back"
	LiveCut    = "cut"    // on with the next piece; this one comes first the next time
	LiveExtend = "extend" // this piece gets minutes from those that come
	LiveEnd    = "end"
	LiveUndo   = "undo" // of a cut or an end, for a minute
)

// undoFor is how long a cut or an end can be taken back: a minute, and the time to see that it
// was one key too many.
const undoFor = 90 * time.Second

// moreMinutes are what a piece is extended by at once.
const moreMinutes = 2

// LiveAsk is what is to be done with the lesson of the version that the page showed.
type LiveAsk struct {
	Version int
	Do      string
	Sure    bool // said yes to what was asked
}

// LiveDone is what was done.
type LiveDone struct {
	Says    string
	Undo    bool // it can be taken back
	Version int  // of the lesson now
}

// Live does it. Where the plan was not reached, the end is a Question.
func (t *Room) Live(ctx context.Context, teacher ref.Teacher, c people.Class, ask LiveAsk, now time.Time) (done LiveDone, err error) {
	if ask.Do == LiveUndo {
		return t.undoLive(ctx, teacher, c, ask.Version, now)
	}
	l, p, err := t.here(ctx, teacher, c, ask.Version, now)
	if err != nil {
		return done, err
	}
	done.Version = l.Lesson.Version + 1
	if ask.Do == LiveBegin {
		if l.Lesson.Running() {
			return done, nil // begun in another window: this one follows
		}
		if len(c.Students) == 0 {
			return done, answer.Refuse("there are no students in this class yet")
		}
		l.Lesson.Began, l.Lesson.PieceAt, l.Lesson.At = now, now, 0
		l.kept = p.keep(plan.NewLesson(p.Class, l.Lesson.Minutes, l.Lesson.Kept))
		l.Lesson.Kept = l.minutes()
		if err := l.write(); err != nil {
			return done, err
		}
		return done, t.saveLesson(ctx, teacher, l)
	}
	if !l.Lesson.Running() {
		return done, answer.Refuse("the lesson hasn’t started, or it’s over")
	}
	last := len(l.kept.Plan.Pieces) - 1
	at := l.Lesson.At
	l.kept.Undo = nil
	switch do := ask.Do; {
	case do == LiveEnd && at < last && !ask.Sure:
		return done, &answer.Question{Asks: fmt.Sprintf("Not reached yet: %s. End the lesson now?", strings.Join(l.kept.skipped(at), ", ")), Yes: "End the lesson now"}
	case do == LiveEnd || do == LiveNext && at >= last:
		l.canUndo(now)
		done.Undo = true
		l.Lesson.Ended = now
		done.Says = "The lesson is over. " + l.forward()
	case do == LiveNext:
		l.Lesson.At, l.Lesson.PieceAt = at+1, now
	case do == LiveBack && at > 0:
		l.Lesson.At, l.Lesson.PieceAt = at-1, now
		l.kept.Cut = without(l.kept.Cut, at-1)
	case do == LiveCut && at < last:
		l.canUndo(now)
		done.Undo = true
		l.kept.Cut = append(without(l.kept.Cut, at), at)
		l.giveRest(at, now)
		l.Lesson.At, l.Lesson.PieceAt = at+1, now
		done.Says = fmt.Sprintf("“%s” is skipped. Its minutes go to “%s”.", l.kept.Plan.Pieces[at].Kind.Name(), l.kept.Plan.Pieces[at+1].Kind.Name())
	case do == LiveExtend:
		from := l.longestAfter(at)
		if from < 0 {
			return done, answer.Refuse("no later item has minutes to spare")
		}
		l.kept.Plan.Pieces[at].Minutes += moreMinutes
		l.kept.Plan.Pieces[from].Minutes -= moreMinutes
		done.Says = fmt.Sprintf("%d minutes more, taken from “%s”.", moreMinutes, l.kept.Plan.Pieces[from].Kind.Name())
	default:
		return done, answer.Refuse("there’s no item that way")
	}
	l.Lesson.Kept = l.minutes()
	if err := l.write(); err != nil {
		return done, err
	}
	return done, t.saveLesson(ctx, teacher, l)
}

// canUndo keeps where the lesson stands.
func (l *lessonPlan) canUndo(now time.Time) {
	l.kept.Undo = &liveUndo{Until: now.Add(undoFor), At: l.Lesson.At, PieceAt: l.Lesson.PieceAt, Minutes: l.minutes(), Cut: slices.Clone(l.kept.Cut)}
}

// undoLive takes the cut or the end that made a version back.
func (t *Room) undoLive(ctx context.Context, teacher ref.Teacher, c people.Class, version int, now time.Time) (done LiveDone, err error) {
	lessons, err := t.Store.Lessons(ctx, teacher, c.ID, 1, now)
	if err != nil {
		return done, err
	}
	var l lessonPlan
	if len(lessons) > 0 && lessons[0].Body != "" {
		l.Lesson.Lesson = lessons[0]
		if err := json.Unmarshal([]byte(lessons[0].Body), &l.kept); err != nil {
			return done, fmt.Errorf("lesson %d: %w", lessons[0].ID, err)
		}
	}
	undo := l.kept.Undo
	if undo == nil || l.Lesson.Version != version || now.After(undo.Until) || len(undo.Minutes) != len(l.kept.Plan.Pieces) {
		return done, answer.Refuse("it’s too late to undo that, or the lesson was changed since")
	}
	for i, minutes := range undo.Minutes {
		l.kept.Plan.Pieces[i].Minutes = minutes
	}
	l.kept.Cut, l.kept.Undo = undo.Cut, nil
	l.Lesson.At, l.Lesson.PieceAt, l.Lesson.Ended, l.Lesson.Kept = undo.At, undo.PieceAt, time.Time{}, undo.Minutes
	if err := l.write(); err != nil {
		return done, err
	}
	return LiveDone{Says: "Undone. The lesson goes on.", Version: version + 1}, t.saveLesson(ctx, teacher, l)
}

func (l lessonPlan) minutes() (list []int) {
	for _, p := range l.kept.Plan.Pieces {
		list = append(list, p.Minutes)
	}
	return list
}

func without(list []int, x int) []int {
	return slices.DeleteFunc(slices.Clone(list), func(y int) bool { return y == x })
}

// giveRest gives what is left of a piece's minutes to the next one.
func (l lessonPlan) giveRest(at int, now time.Time) {
	pieces := l.kept.Plan.Pieces
	used := max(1, int(now.Sub(l.Lesson.PieceAt)/time.Minute))
	if rest := pieces[at].Minutes - used; rest > 0 {
		pieces[at].Minutes -= rest
		pieces[at+1].Minutes += rest
	}
}

// longestAfter is the later piece that can spare the most; -1 where none can.
func (l lessonPlan) longestAfter(at int) int {
	from := -1
	for i := at + 1; i < len(l.kept.Plan.Pieces); i++ {
		p := l.kept.Plan.Pieces[i]
		if p.Kind != plan.Rest && p.Minutes > moreMinutes && (from < 0 || p.Minutes > l.kept.Plan.Pieces[from].Minutes) {
			from = i
		}
	}
	return from
}

// forward says what was not reached, and what of it comes first the next time.
func (l lessonPlan) forward() string {
	skipped := l.kept.skipped(l.Lesson.At)
	if len(skipped) == 0 {
		return "You covered the whole plan."
	}
	says := fmt.Sprintf("Not reached: %s.", strings.Join(skipped, ", "))
	if left := l.kept.unreached(l.Lesson.At); len(left) > 0 {
		says += fmt.Sprintf(" “%s” comes first next time.", left[0].Kind.Name())
	}
	return says
}
