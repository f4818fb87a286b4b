package demo

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/lesson"
	"arplin/teach/people"
)

// addBefore logs what a student has played on steps that are left behind, up to a time,
// with the decisions to go on.
func (l *loader) addBefore(ctx context.Context, student ref.Student, on store.Ladder, before []Before, until time.Time, now ladder.StepID) error {
	const apart = 84 * time.Hour
	count := 0
	for _, b := range before {
		count += len(b.Heard)
	}
	at := until.Add(-time.Duration(count) * apart)
	var sent []store.Sent
	var decided []store.Decision
	for k, b := range before {
		step := on.Steps[b.Step]
		for _, heard := range b.Heard {
			tempo, failed := strings.CutSuffix(heard, "x")
			n, err := strconv.Atoi(tempo)
			if err != nil {
				return fmt.Errorf("%q is no tempo", heard)
			}
			e := store.Entry{StudentID: student, LadderID: on.ID, Step: step, Tempo: n, Failed: failed, At: at}
			sent = append(sent, store.Sent{Entry: e, ClientID: fmt.Sprintf("demo-before-%d-%d", student, len(sent))})
			at = at.Add(apart)
		}
		to := now
		if k+1 < len(before) {
			to = on.Steps[before[k+1].Step].ID
		}
		decided = append(decided, store.Decision{StudentID: student, LadderID: on.ID, Step: step.ID, To: to, Kind: practice.MoveOn, Why: say.Of(say.Plain, "clean at the goal"), At: at.Add(-apart / 2)})
	}
	if _, err := l.Store.AddEntries(ctx, l.teacher, sent); err != nil {
		return err
	}
	return l.Store.KeepDecisions(ctx, l.teacher, on.ID, decided)
}

// addPast adds a song that is finished, and the lesson of last week with its
// register.
func (l *loader) addPast(ctx context.Context, class ref.Class, onDesk ref.Ladder, song ref.Song, now time.Time) error {
	if err := l.addFinished(ctx, class, onDesk, song, now); err != nil {
		return err
	}
	for _, had := range l.school.Lessons {
		if err := l.addLesson(ctx, class, had.Away, now.AddDate(0, 0, -had.Days)); err != nil {
			return err
		}
	}
	return nil
}

// addLesson gives a lesson as it was planned, with its register.
func (l *loader) addLesson(ctx context.Context, class ref.Class, away []string, at time.Time) error {
	c, err := l.People.Class(ctx, l.teacher, class)
	if err != nil {
		return err
	}
	for _, st := range c.Students {
		if slices.Contains(away, st.Name) {
			if _, err := l.Lesson.SetAway(ctx, l.teacher, c, st.ID, true, at); err != nil {
				return err
			}
		}
	}
	if _, err := l.Lesson.Live(ctx, l.teacher, c, lesson.LiveAsk{Do: lesson.LiveBegin}, at); err != nil {
		return err
	}
	plan, err := l.Lesson.Load(ctx, l.teacher, c, at)
	if err != nil {
		return err
	}
	for i, piece := range plan.Pieces {
		at = at.Add(time.Duration(piece.Minutes) * time.Minute)
		do := lesson.LiveNext
		if i == len(plan.Pieces)-1 {
			do = lesson.LiveEnd
		}
		if _, err := l.Lesson.Live(ctx, l.teacher, c, lesson.LiveAsk{Do: do, Sure: true}, at); err != nil {
			return err
		}
	}
	return nil
}

// placeAlso puts those of the class who play it on the second song of the desk.
func (l *loader) placeAlso(ctx context.Context, class ref.Class, id ref.Ladder) error {
	on, err := l.Store.Ladder(ctx, l.teacher, id)
	if err != nil {
		return err
	}
	c, err := l.People.Class(ctx, l.teacher, class)
	if err != nil {
		return err
	}
	places := store.Places{}
	for i, st := range c.Students { // in the order of the file
		if at := l.school.Students[i].Also; at > 0 {
			places[st.ID] = on.Steps[min(at, len(on.Steps))-1].ID
		}
	}
	_, _, err = l.Store.Place(ctx, l.teacher, on.ID, places)
	return err
}

// addTerm stores the weeks up to the concert.
func (l *loader) addTerm(ctx context.Context, class ref.Class, on ref.Ladder, now time.Time) error {
	term := l.school.Term
	if term.Weeks == 0 {
		return nil
	}
	day := now.Truncate(24 * time.Hour)
	return l.Store.SetTerm(ctx, l.teacher, store.Term{ClassID: class, LadderID: on, Begins: day.AddDate(0, 0, -28), Concert: day.AddDate(0, 0, 7*term.Weeks), Name: term.Name, At: term.At})
}

// addLadder makes another ladder of a class.
func (l *loader) addLadder(ctx context.Context, class ref.Class, song ref.Song, pattern string) (c people.Class, on store.Ladder, err error) {
	if c, err = l.People.Class(ctx, l.teacher, class); err != nil {
		return c, on, err
	}
	id, err := l.Ladders.Make(ctx, l.teacher, c, ladders.NewLadder{Song: song, Pattern: pattern})
	if err != nil {
		return c, on, err
	}
	on, err = l.Store.Ladder(ctx, l.teacher, id)
	return c, on, err
}

// addFinished makes the ladder of a song that the class has finished, with those on it who
// were there.
func (l *loader) addFinished(ctx context.Context, class ref.Class, onDesk ref.Ladder, song ref.Song, now time.Time) error {
	c, on, err := l.addLadder(ctx, class, song, l.school.Finished.Pattern)
	if err != nil {
		return err
	}
	places := store.Places{}
	var sent []store.Sent
	for i, st := range c.Students { // in the order of the file
		if len(l.school.Students[i].Before) == 0 { // came later
			continue
		}
		step := on.Steps[min(len(on.Steps)-1, i%3)]
		places[st.ID] = step.ID
		e := store.Entry{StudentID: st.ID, LadderID: on.ID, Step: step, Tempo: 60, At: now.AddDate(0, 0, -63)}
		sent = append(sent, store.Sent{Entry: e, ClientID: fmt.Sprintf("demo-finished-%d", st.ID)})
	}
	if _, _, err := l.Store.Place(ctx, l.teacher, on.ID, places); err != nil {
		return err
	}
	if _, err := l.Store.AddEntries(ctx, l.teacher, sent); err != nil {
		return err
	}
	return l.Store.SetProgress(ctx, l.teacher, on.ID, store.Finished)
}

// addGrowing makes the ladder of a song whose bars come four times, for a concert later: set aside,
// with everybody further on it than on the ladder of now.
func (l *loader) addGrowing(ctx context.Context, class ref.Class, song ref.Song) error {
	c, on, err := l.addLadder(ctx, class, song, l.school.Grows.Pattern)
	if err != nil {
		return err
	}
	places := store.Places{}
	for i, st := range c.Students { // in the order of the file
		places[st.ID] = on.Steps[min(len(on.Steps)-1, 7+l.school.Students[i].Step)].ID
	}
	if _, _, err := l.Store.Place(ctx, l.teacher, on.ID, places); err != nil {
		return err
	}
	return l.Store.SetProgress(ctx, l.teacher, on.ID, store.Aside)
}
