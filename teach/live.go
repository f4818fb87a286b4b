package teach

import (
	"context"
	"fmt"
	"slices"
	"time"

	"arplin/core/plan"
	"arplin/store"
)

// What is done while a lesson runs.
const (
	LiveBegin  = "begin"
	LiveNext   = "next"
	LiveBack   = "back"
	LiveCut    = "cut"    // on with the next piece; this one comes first the next time
	LiveExtend = "extend" // this piece gets minutes from those that come
	LiveEnd    = "end"
)

// moreMinutes are what a piece is extended by at once.
const moreMinutes = 2

// Live does one of these with the lesson of the version that the page showed, and says
// what was done.
func (t *Teach) Live(ctx context.Context, teacher store.TeacherID, c Class, version int, do string, now time.Time) (says string, err error) {
	l, p, err := t.here(ctx, teacher, c, version, now)
	if err != nil {
		return "", err
	}
	if do == LiveBegin {
		if l.Lesson.Running() {
			return "", nil // begun in another window: this one follows
		}
		if len(c.Students) == 0 {
			return "", refuse("nobody is in this class yet")
		}
		l.Lesson.Began, l.Lesson.PieceAt, l.Lesson.At = now, now, 0
		l.kept = p.keep(plan.NewLesson(p.Class, l.Lesson.Minutes, l.Lesson.Kept))
		l.Lesson.Kept = l.minutes()
		if err := l.write(); err != nil {
			return "", err
		}
		return "", t.saveLesson(ctx, teacher, l)
	}
	if !l.Lesson.Running() {
		return "", refuse("the lesson has not begun, or is over")
	}
	last := len(l.kept.Plan.Pieces) - 1
	at := l.Lesson.At
	switch {
	case do == LiveEnd || do == LiveNext && at >= last:
		l.Lesson.Ended = now
		says = "The lesson is over. " + l.forward()
	case do == LiveNext:
		l.Lesson.At, l.Lesson.PieceAt = at+1, now
	case do == LiveBack && at > 0:
		l.Lesson.At, l.Lesson.PieceAt = at-1, now
		l.kept.Cut = without(l.kept.Cut, at-1)
	case do == LiveCut && at < last:
		l.kept.Cut = append(without(l.kept.Cut, at), at)
		l.giveRest(at, now)
		l.Lesson.At, l.Lesson.PieceAt = at+1, now
		says = fmt.Sprintf("“%s” was cut; its minutes go to “%s”.", l.kept.Plan.Pieces[at].Kind.Name(), l.kept.Plan.Pieces[at+1].Kind.Name())
	case do == LiveExtend:
		from := l.longestAfter(at)
		if from < 0 {
			return "", refuse("no later piece has minutes to spare")
		}
		l.kept.Plan.Pieces[at].Minutes += moreMinutes
		l.kept.Plan.Pieces[from].Minutes -= moreMinutes
		says = fmt.Sprintf("%d minutes more, taken from “%s”.", moreMinutes, l.kept.Plan.Pieces[from].Kind.Name())
	default:
		return "", refuse("there is no piece that way")
	}
	l.Lesson.Kept = l.minutes()
	if err := l.write(); err != nil {
		return "", err
	}
	return says, t.saveLesson(ctx, teacher, l)
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

// forward says what comes first the next time.
func (l lessonPlan) forward() string {
	left := l.kept.unreached(l.Lesson.At)
	if len(left) == 0 {
		return "All of the plan was reached."
	}
	return fmt.Sprintf("“%s” comes first the next time.", left[0].Kind.Name())
}
