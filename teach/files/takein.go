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
	"arplin/store/ref"
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
func (t *Room) OpenBundle(ctx context.Context, teacher ref.Teacher, name string, data []byte) (Taking, error) {
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
func (t *Room) TakeIn(ctx context.Context, teacher ref.Teacher, name string, data []byte, now time.Time) (id ref.Import, says string, err error) {
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
func (t *Room) UndoTakeIn(ctx context.Context, teacher ref.Teacher, id ref.Import, now time.Time) error {
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
	teacher ref.Teacher
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
func (u *unpacker) here(uid bundle.UID, kind ref.Kind) int64 {
	if thing, ok := u.rows[ref.UID(uid)]; ok && thing.Kind == kind {
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
		in := store.Coming[store.Pattern]{UID: ref.UID(p.UID), ID: u.here(p.UID, ref.APattern), Is: store.Pattern{Name: letters.Cut(p.Name, song.MaxPatternName), Pattern: read}}
		var now store.Pattern
		if in.ID != 0 {
			if now, err = u.Store.Pattern(ctx, u.teacher, ref.Pattern(in.ID)); err != nil {
				return err
			}
		}
		if k.add(in.Is.Name, in.ID != 0, now.Pattern.Equal(read) && now.Name == in.Is.Name) {
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
	var ids []ref.Song
	for _, s := range u.b.Songs {
		if id := u.here(s.UID, ref.ASong); id != 0 {
			ids = append(ids, ref.Song(id))
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
		in := store.Coming[song.Song]{UID: ref.UID(s.UID), ID: u.here(s.UID, ref.ASong), Is: read}
		there := now[ref.Song(in.ID)].Song
		there.Next, read.Next = 0, 0 // what was taken away counts for nothing
		if k.add(read.Title, in.ID != 0, writtenAlike(read, there)) {
			in.Version = now[ref.Song(in.ID)].Version
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
		in := store.Coming[store.Class]{UID: ref.UID(c.UID), ID: u.here(c.UID, ref.AClass), Is: store.Class{
			Name: c.Name, LessonMinutes: c.Minutes, Fingers: c.Fingers, LowFifth: c.LowFifth, ThickOnTop: c.ThickOnTop, Lean: c.Lean, Anchor: c.Anchor, LongNails: c.LongNails,
			Wrist: c.Wrist, Pick: c.Pick, Roll: c.Roll, Grows: c.Grows, StepSize: c.StepSize, ChordsCome: c.ChordsCome, SingLow: c.SingLow, SingHigh: c.SingHigh, Weights: c.Weights, Series: c.Series,
		}}
		in.Is.SingLow, in.Is.SingHigh = cmp.Or(c.SingLow, keys.DefaultRange.Low.String()), cmp.Or(c.SingHigh, keys.DefaultRange.High.String())
		var err error
		if in.Is, err = people.CheckClass(in.Is); err != nil {
			u.left("classes, %d: %v", i+1, err)
			continue
		}
		if err := patterns.CheckSeries(in.Is.Series); err != nil {
			u.left("classes, %d: %v", i+1, err)
			in.Is.Series = ""
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
		list, err := u.Store.AllStudents(ctx, u.teacher, ref.Class(c.ID))
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
		in := store.Coming[store.Student]{UID: ref.UID(st.UID), Class: ref.UID(st.Class), ID: u.here(st.UID, ref.AStudent), Is: store.Student{
			Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded, Fingers: st.Fingers, DayMinutes: st.DayMinutes, Shapes: st.Shapes, Capo: st.Capo, Cannot: st.Cannot, Note: st.Note,
		}}
		if in.Is.DayMinutes == 0 {
			in.Is.DayMinutes = practice.UsualDay
		}
		var err error
		if in.Is, err = people.CheckStudent(in.Is); err != nil {
			u.left("students, %d: %v", i+1, err)
			continue
		}
		if in.ID == 0 {
			for n := 2; taken[st.Class][strings.ToLower(in.Is.Name)]; n++ { // somebody else of that name is there
				in.Is.Name = fmt.Sprintf("%s %d", letters.Cut(st.Name, 36), n)
			}
			taken[st.Class][strings.ToLower(in.Is.Name)] = true
		}
		k.add(in.Is.Name, in.ID != 0, true)
		u.known[st.UID], u.fresh[st.UID] = true, in.ID == 0
		u.out.in.Students = append(u.out.in.Students, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

func (u *unpacker) ladders(ctx context.Context) error {
	k := TakingKind{ID: "brings-ladders"}
	var ids []ref.Ladder
	for _, l := range u.b.Ladders {
		if id := u.here(l.UID, ref.ALadder); id != 0 {
			ids = append(ids, ref.Ladder(id))
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
		in := store.Coming[store.Ladder]{UID: ref.UID(l.UID), Class: ref.UID(l.Class), Song: ref.UID(l.Song), ID: u.here(l.UID, ref.ALadder), Places: map[ref.UID]ladder.StepID{}}
		in.Is = store.Ladder{Instrument: l.Instrument, PatternName: l.PatternName, Target: target, Progress: progress, Ladder: read}
		for _, s := range l.Sections {
			in.Is.Sections = append(in.Is.Sections, song.SectionID(s))
		}
		for st, step := range l.Places {
			in.Places[ref.UID(st)] = ladder.StepID(step)
		}
		there := now[ref.Ladder(in.ID)].Ladder
		there.Next, read.Next = 0, 0 // what was taken away counts for nothing
		if k.add(l.PatternName, in.ID != 0, writtenAlike(read, there)) {
			in.Version = now[ref.Ladder(in.ID)].Version
		}
		u.fresh[l.UID] = in.ID == 0
		u.known[l.UID] = true
		u.out.in.Ladders = append(u.out.in.Ladders, in)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}
