package files

import (
	"context"
	"encoding/json"
	"maps"
	"slices"
	"time"

	"arplin/core/arrange"
	"arplin/core/ladder"
	"arplin/format/bundle"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/lesson"
)

// Taken is what is taken along; what is archived stays behind.
type Taken struct {
	Class ref.Class // with its students, ladders, their songs, its log and plans; 0 for all classes
	Songs bool      // all songs and patterns, without classes
}

// things are the rows of a teacher's with the names that they have for good.
type things struct {
	names map[ref.Thing]ref.UID
	rows  map[ref.UID]ref.Thing
}

func (t *Room) things(ctx context.Context, teacher ref.Teacher) (things, error) {
	x := things{map[ref.Thing]ref.UID{}, map[ref.UID]ref.Thing{}}
	list, err := t.Store.NamedThings(ctx, teacher)
	for _, n := range list {
		x.rows[n.UID], x.names[n.Thing] = n.Thing, n.UID
	}
	return x, err
}

// uid is the name of a row for good.
func (x things) uid(kind ref.Kind, id int64) bundle.UID {
	return bundle.UID(x.names[ref.Thing{Kind: kind, ID: id}])
}

// Bundle collects what a teacher takes along.
func (t *Room) Bundle(ctx context.Context, teacher ref.Teacher, take Taken, now time.Time) (b bundle.Bundle, err error) {
	p, err := t.packer(ctx, teacher, &b, now)
	if err != nil {
		return b, err
	}
	if !take.Songs {
		if err := p.classes(ctx, take.Class); err != nil {
			return b, err
		}
	}
	if take.Class == 0 {
		if err := p.library(ctx); err != nil {
			return b, err
		}
	}
	return b, p.pack(ctx)
}

// Export collects one thing of a kind, archived or not, with what it needs.
func (t *Room) Export(ctx context.Context, teacher ref.Teacher, kind ref.Kind, id int64, now time.Time) (b bundle.Bundle, err error) {
	p, err := t.packer(ctx, teacher, &b, now)
	if err != nil {
		return b, err
	}
	switch kind {
	case ref.AClass:
		err = p.classBy(ctx, ref.Class(id), p.students)
	case ref.AStudent:
		var st store.Student
		if st, err = t.Store.Student(ctx, teacher, ref.Student(id)); err == nil {
			err = p.classBy(ctx, st.ClassID, func(context.Context, ref.Class) ([]store.Student, error) { return []store.Student{st}, nil })
		}
	case ref.ASong:
		_, err = t.Store.Song(ctx, teacher, ref.Song(id))
		p.songs[ref.Song(id)] = true
	case ref.ALadder:
		var l store.Ladder
		var c store.Class
		if l, err = t.Store.Ladder(ctx, teacher, ref.Ladder(id)); err == nil {
			if c, err = t.Store.Class(ctx, teacher, l.ClassID); err == nil {
				_, err = p.ladders(ctx, []ref.Ladder{l.ID}, p.classRow(c), nil)
			}
		}
	case ref.APattern:
		var q store.Pattern
		q, err = t.Store.Pattern(ctx, teacher, ref.Pattern(id))
		p.pattern(q)
	default:
		err = store.ErrNotFound
	}
	if err != nil {
		return b, err
	}
	return b, p.pack(ctx)
}

func (t *Room) packer(ctx context.Context, teacher ref.Teacher, b *bundle.Bundle, now time.Time) (packer, error) {
	x, err := t.things(ctx, teacher)
	b.Made = now.UTC().Truncate(time.Second)
	return packer{Room: t, teacher: teacher, things: x, out: b, songs: map[ref.Song]bool{}}, err
}

// packer fills a bundle.
type packer struct {
	*Room
	teacher ref.Teacher
	things
	out   *bundle.Bundle
	songs map[ref.Song]bool
}

// library takes all songs and patterns.
func (p *packer) library(ctx context.Context) error {
	lines, err := p.Store.SongsIn(ctx, p.teacher, "")
	if err != nil {
		return err
	}
	for _, l := range lines {
		p.songs[l.ID] = true
	}
	patterns, err := p.Store.Patterns(ctx, p.teacher)
	for _, q := range patterns {
		p.pattern(q)
	}
	return err
}

func (p *packer) pattern(q store.Pattern) {
	p.out.Patterns = append(p.out.Patterns, bundle.Pattern{UID: p.uid(ref.APattern, int64(q.ID)), Name: q.Name, Notation: q.Pattern.String()})
}

// pack writes the songs that are wanted.
func (p *packer) pack(ctx context.Context) error {
	ids := slices.Sorted(maps.Keys(p.songs))
	songs, err := p.Store.SongsOf(ctx, p.teacher, ids)
	if err != nil {
		return err
	}
	for _, id := range ids {
		body, err := songs[id].Encode()
		if err != nil {
			return err
		}
		p.out.Songs = append(p.out.Songs, bundle.Song{UID: p.uid(ref.ASong, int64(id)), Song: body})
	}
	return nil
}

// classes takes one class, or all: students, ladders with their songs, log, term, arrangements.
func (p *packer) classes(ctx context.Context, only ref.Class) error {
	all, err := p.Store.Classes(ctx, p.teacher)
	if err != nil {
		return err
	}
	found := false
	for _, c := range all {
		if only != 0 && c.ID != only {
			continue
		}
		found = true
		if err := p.class(ctx, c, p.students); err != nil {
			return err
		}
	}
	if only != 0 && !found {
		return store.ErrNotFound
	}
	return nil
}

func (p *packer) students(ctx context.Context, id ref.Class) ([]store.Student, error) {
	return p.Store.Students(ctx, p.teacher, id)
}

func (p *packer) classBy(ctx context.Context, id ref.Class, students func(context.Context, ref.Class) ([]store.Student, error)) error {
	c, err := p.Store.Class(ctx, p.teacher, id)
	if err != nil {
		return err
	}
	return p.class(ctx, c, students)
}

// classRow writes a class alone.
func (p *packer) classRow(c store.Class) bundle.UID {
	class := p.uid(ref.AClass, int64(c.ID))
	p.out.Classes = append(p.out.Classes, bundle.Class{
		UID: class, Name: c.Name, Minutes: c.LessonMinutes, Fingers: c.Fingers, LowFifth: c.LowFifth, ThickOnTop: c.ThickOnTop, Lean: c.Lean, Anchor: c.Anchor,
		LongNails: c.LongNails, Wrist: c.Wrist, Pick: c.Pick, Roll: c.Roll, Grows: c.Grows, StepSize: c.StepSize, ChordsCome: c.ChordsCome, SingLow: c.SingLow, SingHigh: c.SingHigh, Weights: c.Weights, Series: c.Series,
	})
	return class
}

// class writes a class with those of its students that are wanted.
func (p *packer) class(ctx context.Context, c store.Class, wanted func(context.Context, ref.Class) ([]store.Student, error)) error {
	class := p.classRow(c)
	students, err := wanted(ctx, c.ID)
	if err != nil {
		return err
	}
	here := map[ref.Student]bundle.UID{}
	for _, st := range students {
		here[st.ID] = p.uid(ref.AStudent, int64(st.ID))
		p.out.Students = append(p.out.Students, bundle.Student{
			UID: here[st.ID], Class: class, Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded, Fingers: st.Fingers, DayMinutes: st.DayMinutes,
			Shapes: st.Shapes, Capo: st.Capo, Cannot: st.Cannot, Note: st.Note,
		})
	}
	ids, err := p.Store.LadderIDs(ctx, p.teacher, c.ID)
	if err != nil {
		return err
	}
	ladders, err := p.ladders(ctx, ids, class, here)
	if err != nil {
		return err
	}
	if err := p.takes(ctx, c.ID, here, ladders); err != nil {
		return err
	}
	if err := p.home(ctx, c.ID, here, ladders); err != nil {
		return err
	}
	if err := p.log(ctx, c.ID, here, ladders); err != nil {
		return err
	}
	term, err := p.Store.TermOf(ctx, p.teacher, c.ID)
	if ok, err := answer.Found(err); err != nil {
		return err
	} else if on, known := ladders[term.LadderID]; ok && known {
		out := bundle.Term{Class: class, Ladder: on, Begins: term.Begins.Format(time.DateOnly), Concert: term.Concert.Format(time.DateOnly), Name: term.Name, At: term.At}
		for _, day := range term.Off {
			out.Off = append(out.Off, day.Format(time.DateOnly))
		}
		for _, id := range term.More {
			if more, known := ladders[id]; known {
				out.More = append(out.More, more)
			}
		}
		p.out.Terms = append(p.out.Terms, out)
	}
	return nil
}

func (p *packer) ladders(ctx context.Context, ids []ref.Ladder, class bundle.UID, here map[ref.Student]bundle.UID) (map[ref.Ladder]bundle.UID, error) {
	list, err := p.Store.LaddersOf(ctx, p.teacher, ids)
	if err != nil {
		return nil, err
	}
	uids := map[ref.Ladder]bundle.UID{}
	for _, id := range ids {
		l := list[id]
		body, err := l.Encode()
		if err != nil {
			return nil, err
		}
		places, err := p.Store.Placements(ctx, p.teacher, id)
		if err != nil {
			return nil, err
		}
		uids[id] = p.uid(ref.ALadder, int64(id))
		p.songs[l.SongID] = true
		out := bundle.Ladder{UID: uids[id], Class: class, Song: p.uid(ref.ASong, int64(l.SongID)), Instrument: l.Instrument, PatternName: l.PatternName, Target: l.Target.String(), Progress: string(l.Progress), Ladder: body, Places: map[bundle.UID]int{}}
		for _, s := range l.Sections {
			out.Sections = append(out.Sections, int(s))
		}
		for st, step := range places {
			if uid, known := here[st]; known {
				out.Places[uid] = int(step)
			}
		}
		p.out.Ladders = append(p.out.Ladders, out)
		if err := p.arrangement(ctx, id, here); err != nil {
			return nil, err
		}
	}
	return uids, nil
}

func (p *packer) arrangement(ctx context.Context, id ref.Ladder, here map[ref.Student]bundle.UID) error {
	a, err := p.Store.ArrangementOf(ctx, p.teacher, id)
	if ok, err := answer.Found(err); err != nil || !ok {
		return err
	}
	var kept lesson.KeptGrow
	if err := json.Unmarshal([]byte(a.Body), &kept); err != nil || len(kept.Parts) == 0 {
		return nil // one that cannot be read is proposed anew
	}
	out := bundle.Arrangement{Ladder: p.uid(ref.ALadder, int64(id)), Groups: [][]bundle.UID{}, Parts: [][]bundle.Part{}}
	if out.Passes, err = json.Marshal(kept.Passes); err != nil {
		return err
	}
	for _, group := range kept.Groups {
		list := []bundle.UID{}
		for _, st := range group {
			if uid, known := here[st]; known {
				list = append(list, uid)
			}
		}
		out.Groups = append(out.Groups, list)
	}
	for _, parts := range kept.Parts {
		list := []bundle.Part{}
		for _, part := range parts {
			q := bundle.Part{Kind: string(part.Kind), Step: int(part.Step)}
			if part.Of != 0 {
				q.Of = p.uid(ref.ALadder, part.Of)
			}
			list = append(list, q)
		}
		out.Parts = append(out.Parts, list)
	}
	p.out.Arrangements = append(p.out.Arrangements, out)
	return nil
}

func (p *packer) log(ctx context.Context, id ref.Class, here map[ref.Student]bundle.UID, ladders map[ref.Ladder]bundle.UID) error {
	entries, err := p.Store.WholeLog(ctx, p.teacher, id)
	if err != nil {
		return err
	}
	for _, e := range entries {
		student, on := here[e.StudentID], ladders[e.LadderID]
		if student == "" || on == "" {
			continue // of somebody or something that is archived
		}
		step, err := ladder.Ladder{Steps: []ladder.Step{e.Step}}.Encode()
		if err != nil {
			return err
		}
		p.out.Log = append(p.out.Log, bundle.Entry{
			UID: bundle.UID(e.UID), Student: student, Ladder: on, Step: step, Tempo: e.Tempo, Failed: e.Failed, Errors: string(e.Errors),
			Minutes: e.Minutes, Fault: string(e.Fault), Word: e.Word, Taken: e.Taken, Bar: int(e.Bar), At: e.At.UTC(),
		})
	}
	return nil
}

// arranged is an arrangement of a file with the rows that its students and ladders have here.
func arranged(a bundle.Arrangement, row func(ref.UID) int64) (string, error) {
	kept := lesson.KeptGrow{Format: lesson.GrowFormat}
	if err := json.Unmarshal(a.Passes, &kept.Passes); err != nil {
		return "", answer.Refuse("the passes of an arrangement cannot be read")
	}
	for _, group := range a.Groups {
		var list []ref.Student
		for _, uid := range group {
			if id := row(ref.UID(uid)); id != 0 {
				list = append(list, ref.Student(id))
			}
		}
		kept.Groups = append(kept.Groups, list)
	}
	for _, parts := range a.Parts {
		var list []arrange.Part
		for _, p := range parts {
			list = append(list, arrange.Part{Kind: arrange.PartKind(p.Kind), Step: ladder.StepID(p.Step), Of: row(ref.UID(p.Of))})
		}
		kept.Parts = append(kept.Parts, list)
	}
	body, err := json.Marshal(kept)
	return string(body), err
}
