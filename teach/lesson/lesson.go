package lesson

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/home"
	"arplin/teach/ladders"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Lesson is a class's next lesson, or the one that is running.
type Lesson struct {
	store.Lesson
	Class    people.Class
	Pieces   []LessonPiece
	Register []Present
	Failing  []answer.Failing // what the plan does without
	Home     string           // what came from home, in a paragraph; empty where nothing did
	Behind   int              // minutes by which the piece that is on began late; negative where it began early
	Left     int              // seconds of the piece that is on
}

// LessonPiece is a piece of the band.
type LessonPiece struct {
	plan.Piece
	Does, Why string
	Number    int // from 1
	From, To  int // minutes since the beginning
	Name      string
	Song      string
	Ladder    ref.Ladder
	Lane      draw.SVG
	Hear      string // the address of its score
	Groups    []LessonGroup
	Tune      []people.Tuning      // for the piece in which strings are tuned
	Series    *patterns.SeriesLine // the figure of the week, for the warm-up
	Newcomers []LessonMember       // not on a step yet
	Past, On  bool
}

// LessonGroup is a group with its lane.
type LessonGroup struct {
	plan.Group
	People    []LessonMember
	Meanwhile string
	Name      string // of its step
	Lane      draw.SVG
	Hear      string   // the address of its score
	Moves     []string // a decision to move on for each who has a step further, as the desk reads it
}

// LessonMember is somebody in a group.
type LessonMember struct {
	plan.Member
	Name, Why string
}

// Present is a student in the register.
type Present struct {
	store.Student
	Away bool
}

// keptLesson is a lesson's plan as it was begun. It names nobody: see planClass.
type keptLesson struct {
	Plan  plan.Lesson `json:"plan"`
	Songs []keptSong  `json:"songs"`
	Cut   []int       `json:"cut,omitempty"` // pieces, from 0
	Undo  *liveUndo   `json:"undo,omitempty"`
}

// liveUndo is where a lesson stood before a piece was cut or the lesson was ended, for as long as
// that can be taken back.
type liveUndo struct {
	Until   time.Time `json:"until"`
	At      int       `json:"at"`
	PieceAt time.Time `json:"piece_at"`
	Minutes []int     `json:"minutes"`
	Cut     []int     `json:"cut,omitempty"`
}

type keptSong struct {
	Ladder ref.Ladder      `json:"ladder"`
	Steps  []ladder.StepID `json:"steps"`
}

// Load plans the next lesson of a class, or shows the one that is running.
func (t *Room) Load(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (Lesson, error) {
	l, p, err := t.planLesson(ctx, teacher, c, now)
	if err != nil {
		return l.Lesson, err
	}
	came, err := t.Home.Week(ctx, teacher, c, 0, now)
	if err != nil {
		return l.Lesson, err
	}
	made := l.view(p, now)
	made.Home = home.BeforeLesson(c, came)
	return made, nil
}

// lessonPlan is a lesson with what is planned.
type lessonPlan struct {
	Lesson Lesson
	kept   keptLesson
}

// planLesson reads a class's next lesson and plans it, unless it has begun.
func (t *Room) planLesson(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (l lessonPlan, p planning, err error) {
	l.Lesson = Lesson{Class: c, Lesson: store.Lesson{ClassID: c.ID, Minutes: c.LessonMinutes}}
	lessons, err := t.Store.Lessons(ctx, teacher, c.ID, 2, now)
	if err != nil {
		return l, p, err
	}
	if len(lessons) > 0 && lessons[0].Ended.IsZero() {
		l.Lesson.Lesson = lessons[0]
		lessons = lessons[1:]
	}
	if p, err = t.planClass(ctx, teacher, c, now); err != nil {
		return l, p, err
	}
	for i, st := range c.Students {
		p.Students[i].Away = slices.Contains(l.Lesson.Away, st.ID)
	}
	if len(lessons) > 0 {
		p.Left, p.New = p.left(lessons[0]), p.wasNew(lessons[0])
	}
	p.First = len(lessons) == 0 && !p.heard
	if l.Lesson.Began.IsZero() {
		l.kept = p.keep(plan.NewLesson(p.Class, l.Lesson.Minutes, l.Lesson.Kept))
		return l, p, nil
	}
	if err := json.Unmarshal([]byte(l.Lesson.Body), &l.kept); err != nil {
		return l, p, fmt.Errorf("lesson %d: %w", l.Lesson.ID, err)
	}
	return l, p, nil
}

// keep ties a plan to the ladders and steps that it counts.
func (p planning) keep(made plan.Lesson) keptLesson {
	kept := keptLesson{Plan: made}
	for _, l := range p.ladders {
		song := keptSong{Ladder: l.ID}
		for _, s := range l.Steps {
			song.Steps = append(song.Steps, s.ID)
		}
		kept.Songs = append(kept.Songs, song)
	}
	return kept
}

// at is the ladder and step of a piece; zero where it has none.
func (k keptLesson) at(piece plan.Piece) (ref.Ladder, ladder.StepID) {
	if piece.Song < 0 || piece.Song >= len(k.Songs) {
		return 0, 0
	}
	sg := k.Songs[piece.Song]
	if piece.Step < 0 || piece.Step >= len(sg.Steps) {
		return sg.Ladder, 0
	}
	return sg.Ladder, sg.Steps[piece.Step]
}

// view puts names, lanes and the clock to a plan.
func (l lessonPlan) view(p planning, now time.Time) Lesson {
	v := l.Lesson
	v.Failing = p.failing
	titles := titlesOf(p.ladders)
	shown := namesOf(v.Class, titles)
	from := 0
	for i, piece := range l.kept.Plan.Pieces {
		id, step := l.kept.at(piece)
		lp := LessonPiece{Piece: piece, Does: shown.says(piece.Does), Why: shown.says(piece.Why), Number: i + 1, From: from, To: from + piece.Minutes, Name: piece.Kind.Name(), Ladder: id, Song: titles[id], Past: v.Running() && i < v.At, On: v.Running() && i == v.At}
		from = lp.To
		if lp.Lane, _ = p.lane(id, step); lp.Lane != "" {
			lp.Hear = ladders.StepScoreAt(id, step, 0)
		}
		if piece.Kind == plan.Tune {
			lp.Tune = people.Tunings(v.Class.Instruments())
		}
		if piece.Kind == plan.WarmUp {
			lp.Series = p.series.Now()
		}
		if piece.Kind == plan.Groups {
			for _, id := range p.Waiting() { // also who came after the plan was begun
				lp.Newcomers = append(lp.Newcomers, LessonMember{Member: plan.Member{ID: id}, Name: shown.Person(id)})
			}
		}
		for _, g := range piece.Groups {
			_, at := l.kept.at(plan.Piece{Song: piece.Song, Step: g.Step})
			lane, name := p.lane(id, at)
			group := LessonGroup{Group: g, Meanwhile: shown.says(g.Meanwhile), Name: name, Lane: lane, Hear: ladders.StepScoreAt(id, at, 0)}
			for _, m := range g.People {
				if on, at := l.kept.at(plan.Piece{Song: piece.Song, Step: m.Step}); p.hasNext(on, at) && p.stands(on, m.ID, at) {
					group.Moves = append(group.Moves, fmt.Sprintf("%d %s %d", m.ID, practice.MoveOn, at))
				}
				group.People = append(group.People, LessonMember{m, shown.Person(m.ID), shown.says(m.Why)})
			}
			lp.Groups = append(lp.Groups, group)
		}
		v.Pieces = append(v.Pieces, lp)
	}
	for _, st := range byName(v.Class.Students) {
		v.Register = append(v.Register, Present{st, slices.Contains(v.Away, st.ID)})
	}
	if v.Running() && v.At < len(v.Pieces) {
		on := v.Pieces[v.At]
		v.Left = int((time.Duration(on.Minutes)*time.Minute - now.Sub(v.PieceAt)) / time.Second)
		v.Behind = int(v.PieceAt.Sub(v.Began)/time.Minute) - on.From
	}
	return v
}

// lane draws a step of a ladder; nothing for one that is gone.
func (p planning) lane(id ref.Ladder, step ladder.StepID) (lane draw.SVG, name string) {
	for i, l := range p.ladders {
		if at := ladder.Find(l.Steps, step); l.ID == id && at >= 0 {
			return draw.Lane(l.Steps[at].Pattern, ladders.FreshStrokes(l.Steps, at), l.Steps[at].Pattern.Aloud()), p.Songs[i].Steps[at].Name
		}
	}
	return "", ""
}

// hasNext reports a step of a ladder with one above it.
func (p planning) hasNext(id ref.Ladder, step ladder.StepID) bool {
	return slices.ContainsFunc(p.ladders, func(l ladders.Ladder) bool {
		at := ladder.Find(l.Steps, step)
		return l.ID == id && at >= 0 && at+1 < len(l.Steps)
	})
}

// stands reports that a student is on a step now: a plan that was begun may be older.
func (p planning) stands(id ref.Ladder, student int64, step ladder.StepID) bool {
	return slices.ContainsFunc(p.ladders, func(l ladders.Ladder) bool { return l.ID == id && l.Places[ref.Student(student)] == step })
}

// Now is the piece that is on; Next the one after it. Nil where there is none.
func (l Lesson) Now() *LessonPiece { return l.piece(l.At) }

// Next is the piece after the one that is on.
func (l Lesson) Next() *LessonPiece { return l.piece(l.At + 1) }

func (l Lesson) piece(i int) *LessonPiece {
	if i < 0 || i >= len(l.Pieces) {
		return nil
	}
	return &l.Pieces[i]
}

// Missing names who is away.
func (l Lesson) Missing() (list []store.Student) {
	for _, p := range l.Register {
		if p.Away {
			list = append(list, p.Student)
		}
	}
	return list
}

// here loads the lesson on which something is done, for the version that the page
// showed; the first time it is stored.
func (t *Room) here(ctx context.Context, teacher ref.Teacher, c people.Class, version int, now time.Time) (l lessonPlan, p planning, err error) {
	stored, err := t.Store.NextLesson(ctx, teacher, c.ID, now)
	if err != nil {
		return l, p, err
	}
	if version > 0 && version != stored.Version {
		return l, p, errLessonMoved
	}
	return t.planLesson(ctx, teacher, c, now)
}

var errLessonMoved = answer.Refuse("the lesson was changed in another window. This is the latest version")

// saveLesson stores it; what another window has done in between is said.
func (t *Room) saveLesson(ctx context.Context, teacher ref.Teacher, l lessonPlan) error {
	err := t.Store.SaveLesson(ctx, teacher, l.Lesson.Lesson)
	var stale *store.StaleError
	if errors.As(err, &stale) {
		return errLessonMoved
	}
	return err
}

// MoveBorder moves the border behind a piece of the lesson by some minutes.
func (t *Room) MoveBorder(ctx context.Context, teacher ref.Teacher, c people.Class, version, behind, by int, now time.Time) error {
	l, p, err := t.here(ctx, teacher, c, version, now)
	if err != nil {
		return err
	}
	if behind < l.Lesson.At && l.Lesson.Running() {
		return answer.Refuse("that item is over")
	}
	var minutes []int
	for _, piece := range l.kept.Plan.Pieces {
		minutes = append(minutes, piece.Minutes)
	}
	if l.Lesson.Kept, err = plan.MoveBorder(minutes, behind, by); err != nil {
		return answer.Refused(err)
	}
	if l.Lesson.Running() {
		if err := l.again(p); err != nil {
			return err
		}
	}
	return t.saveLesson(ctx, teacher, l)
}

// SetMinutes makes the lesson as long as that; the pieces are divided anew.
func (t *Room) SetMinutes(ctx context.Context, teacher ref.Teacher, c people.Class, version, minutes int, now time.Time) error {
	l, _, err := t.here(ctx, teacher, c, version, now)
	switch {
	case err != nil:
		return err
	case minutes < plan.MinLesson || minutes > plan.MaxLesson:
		return answer.Refuse("a lesson has %d to %d minutes", plan.MinLesson, plan.MaxLesson)
	case l.Lesson.Running():
		return answer.Refuse("the lesson has started and keeps its length. Its items can still be longer or shorter")
	}
	l.Lesson.Minutes, l.Lesson.Kept = minutes, nil
	return t.saveLesson(ctx, teacher, l)
}

// SetAway notes who is away; the groups of what is still to come are made anew.
func (t *Room) SetAway(ctx context.Context, teacher ref.Teacher, c people.Class, student ref.Student, away bool, now time.Time) (says string, err error) {
	st, ok := c.Student(student)
	if !ok {
		return "", answer.Refuse("this student isn’t in the class any more")
	}
	stored, err := t.Store.NextLesson(ctx, teacher, c.ID, now)
	if err != nil {
		return "", err
	}
	if err := t.Store.SetAway(ctx, teacher, stored.ID, student, away); err != nil {
		return "", err
	}
	if stored.Running() {
		l, p, err := t.planLesson(ctx, teacher, c, now)
		if err != nil {
			return "", err
		}
		if err := l.again(p); err != nil {
			return "", err
		}
		if err := t.saveLesson(ctx, teacher, l); err != nil {
			return "", err
		}
	}
	if away {
		return fmt.Sprintf("%s is away. The groups are for everyone who came.", st.Name), nil
	}
	return fmt.Sprintf("%s is here.", st.Name), nil
}

// again plans what is still to come of a running lesson anew, with its minutes as they
// are, and keeps what is over.
func (l *lessonPlan) again(p planning) error {
	fresh := plan.NewLesson(p.Class, l.Lesson.Minutes, l.Lesson.Kept)
	if len(fresh.Pieces) != len(l.kept.Plan.Pieces) {
		return nil
	}
	copy(fresh.Pieces, l.kept.Plan.Pieces[:l.Lesson.At])
	cut := l.kept.Cut
	l.kept = p.keep(fresh)
	l.kept.Cut = cut
	return l.write()
}

func (l *lessonPlan) write() error {
	body, err := json.Marshal(l.kept)
	l.Lesson.Body = string(body)
	return err
}
