package files

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/song/keys"
	"arplin/format/bundle"
	"arplin/letters"
	"arplin/store"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Taking is a bundle held against what an account has: what is new, what is there already, what is
// there in a different version.
type Taking struct {
	Kinds []TakingKind
	Left  []string // what cannot be used, with its place
	Made  time.Time

	in store.Incoming
}

// TakingKind is what of a kind comes.
type TakingKind struct {
	ID      say.ID
	New     []string
	Changed []string
	Same    int
	Many    bool // counted only: nobody reads a list of them
}

// add counts a thing as new, the same, or there in a different version, which it reports.
func (k *TakingKind) add(name string, here, same bool) (changed bool) {
	switch {
	case !here:
		k.New = append(k.New, name)
	case same:
		k.Same++
	default:
		k.Changed = append(k.Changed, name)
		return true
	}
	return false
}

// Nothing reports that there is nothing to take in.
func (t Taking) Nothing() bool {
	return !slices.ContainsFunc(t.Kinds, func(k TakingKind) bool { return len(k.New)+len(k.Changed) > 0 })
}

// brings counts what comes.
func (t Taking) brings() say.Line {
	var list []any
	for _, k := range t.Kinds {
		if n := len(k.New) + len(k.Changed); n > 0 {
			list = append(list, say.Of(k.ID, n))
		}
	}
	return say.Of(bringsOf(len(list)), list...)
}

// Says counts what comes, in words.
func (t Taking) Says() string { return BringsWords.Say(t.brings()) }

// OpenBundle reads a bundle and holds it against the account; nothing is stored.
func (t *Room) OpenBundle(ctx context.Context, teacher store.TeacherID, name string, data []byte) (Taking, error) {
	b, err := bundle.Read(data)
	if err != nil {
		return Taking{}, answer.Refused(err)
	}
	x, err := t.things(ctx, teacher)
	if err != nil {
		return Taking{}, err
	}
	u := unpacker{Room: t, teacher: teacher, things: x, b: b, known: map[bundle.UID]bool{}, fresh: map[bundle.UID]bool{}}
	if uid, twice := b.Twice(); twice {
		return Taking{}, answer.Refuse("%s is in the file twice", uid)
	}
	u.out.Made = b.Made
	u.out.in.Name = letters.Cut(strings.TrimSpace(name), 120)
	for _, part := range []func(context.Context) error{u.patterns, u.songs, u.classes, u.students, u.ladders, u.log, u.home, u.takes, u.plans} {
		if err := part(ctx); err != nil {
			return Taking{}, err
		}
	}
	u.out.in.Says = u.out.brings()
	return u.out, nil
}

// TakeIn stores what a bundle brings, all of it or nothing.
func (t *Room) TakeIn(ctx context.Context, teacher store.TeacherID, name string, data []byte, now time.Time) (id store.ImportID, says string, err error) {
	taking, err := t.OpenBundle(ctx, teacher, name, data)
	if err != nil {
		return 0, "", err
	}
	if taking.Nothing() {
		return 0, "", answer.Refuse("everything in it is already here")
	}
	id, err = t.Store.Import(ctx, teacher, taking.in, now)
	var stale *store.StaleError
	switch {
	case errors.As(err, &stale):
		return 0, "", answer.Refuse("something was just changed in another window. Preview the file again")
	case errors.Is(err, store.ErrReused), errors.Is(err, store.ErrTaken), errors.Is(err, store.ErrNotFound):
		return 0, "", answer.Refuse("the file doesn’t fit together: it mentions things that aren’t in it, or are in it twice")
	}
	return id, taking.Says(), err
}

// UndoTakeIn takes an import back.
func (t *Room) UndoTakeIn(ctx context.Context, teacher store.TeacherID, id store.ImportID, now time.Time) error {
	err := t.Store.UndoImport(ctx, teacher, id, now)
	var used *store.InUseError
	switch {
	case errors.As(err, &used):
		return answer.Refuse("it can’t be undone any more, because this was used or changed since: %s. Archive anything you don’t want instead", used)
	case errors.Is(err, store.ErrUndone):
		return answer.Refuse("this import was already undone")
	}
	return err
}

// unpacker holds a bundle against an account, kind by kind.
type unpacker struct {
	*Room
	teacher store.TeacherID
	things
	b     bundle.Bundle
	known map[bundle.UID]bool // that can be referred to
	fresh map[bundle.UID]bool // classes, students and ladders that are new
	out   Taking
}

func (u *unpacker) left(format string, args ...any) {
	switch n := len(u.out.Left); {
	case n < maxUnused:
		u.out.Left = append(u.out.Left, fmt.Sprintf(format, args...))
	case n == maxUnused:
		u.out.Left = append(u.out.Left, "and more like these")
	}
}

// here is the row of a name where it is there still; 0 for a new one.
func (u *unpacker) here(uid bundle.UID, kind store.Kind) int64 {
	if thing, ok := u.rows[store.UID(uid)]; ok && thing.Kind == kind {
		return thing.ID
	}
	return 0
}

func (u *unpacker) patterns(ctx context.Context) error {
	k := TakingKind{ID: "brings-patterns"}
	for i, p := range u.b.Patterns {
		read, err := pattern.Parse(p.Notation)
		if err != nil {
			u.left("patterns, %d: %v", i+1, err)
			continue
		}
		in := store.IncomingPattern{UID: store.UID(p.UID), ID: store.PatternID(u.here(p.UID, store.APattern)), Name: letters.Cut(p.Name, song.MaxPatternName), Pattern: read}
		var now store.Pattern
		if in.ID != 0 {
			if now, err = u.Store.Pattern(ctx, u.teacher, in.ID); err != nil {
				return err
			}
		}
		if k.add(in.Name, in.ID != 0, now.Pattern.Equal(read) && now.Name == in.Name) {
			in.Version = now.Version
		}
		u.known[p.UID] = true
		u.out.in.Patterns = append(u.out.in.Patterns, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

func (u *unpacker) songs(ctx context.Context) error {
	k := TakingKind{ID: "brings-songs"}
	var ids []store.SongID
	for _, s := range u.b.Songs {
		if id := u.here(s.UID, store.ASong); id != 0 {
			ids = append(ids, store.SongID(id))
		}
	}
	now, err := u.Store.SongsOf(ctx, u.teacher, ids)
	if err != nil {
		return err
	}
	for i, s := range u.b.Songs {
		read, err := song.Decode(s.Song)
		if err == nil {
			err = read.Check()
		}
		if err != nil {
			u.left("songs, %d: %v", i+1, err)
			continue
		}
		in := store.IncomingSong{UID: store.UID(s.UID), ID: store.SongID(u.here(s.UID, store.ASong)), Song: read}
		there := now[in.ID].Song
		there.Next, read.Next = 0, 0 // what was taken away counts for nothing
		if k.add(read.Title, in.ID != 0, writtenAlike(read, there)) {
			in.Version = now[in.ID].Version
		}
		u.known[s.UID] = true
		u.out.in.Songs = append(u.out.in.Songs, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

// writtenAlike reports two songs or ladders that are the same when they are stored.
func writtenAlike[T interface{ Encode() ([]byte, error) }](a, b T) bool {
	x, errX := a.Encode()
	y, errY := b.Encode()
	return errX == nil && errY == nil && string(x) == string(y)
}

func (u *unpacker) classes(context.Context) error {
	k := TakingKind{ID: "brings-classes"}
	for i, c := range u.b.Classes {
		in := store.IncomingClass{UID: store.UID(c.UID), ID: store.ClassID(u.here(c.UID, store.AClass)), Class: store.Class{
			Name: c.Name, LessonMinutes: c.Minutes, Fingers: c.Fingers, LowFifth: c.LowFifth, ThickOnTop: c.ThickOnTop, Lean: c.Lean, Anchor: c.Anchor, LongNails: c.LongNails,
			Wrist: c.Wrist, Pick: c.Pick, Roll: c.Roll, Grows: c.Grows, StepSize: c.StepSize, ChordsCome: c.ChordsCome, SingLow: c.SingLow, SingHigh: c.SingHigh, Weights: c.Weights, Series: c.Series,
		}}
		in.Class.SingLow, in.Class.SingHigh = cmp.Or(c.SingLow, keys.DefaultRange.Low.String()), cmp.Or(c.SingHigh, keys.DefaultRange.High.String())
		var err error
		if in.Class, err = people.CheckClass(in.Class); err != nil {
			u.left("classes, %d: %v", i+1, err)
			continue
		}
		if err := patterns.CheckSeries(in.Class.Series); err != nil {
			u.left("classes, %d: %v", i+1, err)
			in.Class.Series = ""
		}
		k.add(c.Name, in.ID != 0, true) // what its teacher has set here stays
		u.fresh[c.UID] = in.ID == 0
		u.known[c.UID] = true
		u.out.in.Classes = append(u.out.in.Classes, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

func (u *unpacker) students(ctx context.Context) error {
	k := TakingKind{ID: "brings-students"}
	taken := map[bundle.UID]map[string]bool{} // names, by class
	for _, c := range u.out.in.Classes {
		taken[bundle.UID(c.UID)] = map[string]bool{}
		if c.ID == 0 {
			continue
		}
		list, err := u.Store.AllStudents(ctx, u.teacher, c.ID)
		if err != nil {
			return err
		}
		for _, st := range list {
			taken[bundle.UID(c.UID)][strings.ToLower(st.Name)] = true
		}
	}
	for i, st := range u.b.Students {
		if !u.known[st.Class] {
			u.left("students, %d: %s is of a class that is not in the file", i+1, letters.Cut(st.Name, 40))
			continue
		}
		in := store.IncomingStudent{UID: store.UID(st.UID), Class: store.UID(st.Class), ID: store.StudentID(u.here(st.UID, store.AStudent)), Student: store.Student{
			Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded, Fingers: st.Fingers, DayMinutes: st.DayMinutes, Shapes: st.Shapes, Capo: st.Capo, Cannot: st.Cannot, Note: st.Note,
		}}
		if in.Student.DayMinutes == 0 {
			in.Student.DayMinutes = practice.UsualDay
		}
		var err error
		if in.Student, err = people.CheckStudent(in.Student); err != nil {
			u.left("students, %d: %v", i+1, err)
			continue
		}
		if in.ID == 0 {
			for n := 2; taken[st.Class][strings.ToLower(in.Student.Name)]; n++ { // somebody else of that name is there
				in.Student.Name = fmt.Sprintf("%s %d", letters.Cut(st.Name, 36), n)
			}
			taken[st.Class][strings.ToLower(in.Student.Name)] = true
		}
		k.add(in.Student.Name, in.ID != 0, true)
		u.known[st.UID], u.fresh[st.UID] = true, in.ID == 0
		u.out.in.Students = append(u.out.in.Students, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

func (u *unpacker) ladders(ctx context.Context) error {
	k := TakingKind{ID: "brings-ladders"}
	var ids []store.LadderID
	for _, l := range u.b.Ladders {
		if id := u.here(l.UID, store.ALadder); id != 0 {
			ids = append(ids, store.LadderID(id))
		}
	}
	now, err := u.Store.LaddersOf(ctx, u.teacher, ids)
	if err != nil {
		return err
	}
	for i, l := range u.b.Ladders {
		read, err := ladder.Decode(l.Ladder)
		target, targetErr := pattern.Decode(l.Target)
		progress, ok := store.ParseProgress(l.Progress)
		if err = errors.Join(err, targetErr); err != nil || len(read.Steps) == 0 || len(read.Steps) > ladder.MaxSteps || !ok || !u.known[l.Class] || !u.known[l.Song] {
			u.left("ladders, %d: %s cannot be read, or its class or song is not in the file", i+1, letters.Cut(l.PatternName, 40))
			continue
		}
		in := store.IncomingLadder{UID: store.UID(l.UID), Class: store.UID(l.Class), Song: store.UID(l.Song), ID: store.LadderID(u.here(l.UID, store.ALadder)), Places: map[store.UID]ladder.StepID{}}
		in.Ladder = store.Ladder{Instrument: l.Instrument, PatternName: l.PatternName, Target: target, Progress: progress, Ladder: read}
		for _, s := range l.Sections {
			in.Ladder.Sections = append(in.Ladder.Sections, song.SectionID(s))
		}
		for st, step := range l.Places {
			in.Places[store.UID(st)] = ladder.StepID(step)
		}
		there := now[in.ID].Ladder
		there.Next, read.Next = 0, 0 // what was taken away counts for nothing
		if k.add(l.PatternName, in.ID != 0, writtenAlike(read, there)) {
			in.Version = now[in.ID].Version
		}
		u.fresh[l.UID] = in.ID == 0
		u.known[l.UID] = true
		u.out.in.Ladders = append(u.out.in.Ladders, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}
