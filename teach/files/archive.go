package files

import (
	"context"
	"encoding/json"
	"time"

	"arplin/core/ladder"
	"arplin/store"
	"arplin/teach/answer"
)

// exportFormat is the number of the JSON form of an export.
const exportFormat = 1

// Export is what a teacher takes along: of one thing, or of the whole account.
type Export struct {
	Format   int             `json:"format"`
	Made     time.Time       `json:"made"`
	Classes  []ExportClass   `json:"classes,omitempty"`
	Songs    []ExportSong    `json:"songs,omitempty"`
	Ladders  []ExportLadder  `json:"ladders,omitempty"`
	Patterns []ExportPattern `json:"patterns,omitempty"`
}

// ExportClass is a class with its students.
type ExportClass struct {
	store.Class
	Students []ExportStudent `json:"students"`
}

// ExportStudent is a student with what was heard.
type ExportStudent struct {
	store.Student
	Heard []ExportEntry `json:"heard,omitempty"`
}

// ExportEntry is a clean tempo with the figure that was played.
type ExportEntry struct {
	At     time.Time      `json:"at"`
	Ladder store.LadderID `json:"ladder"`
	Step   ladder.StepID  `json:"step"`
	Figure string         `json:"figure"`
	Tempo  int            `json:"tempo"`
}

// ExportSong is a song in the form in which it is stored.
type ExportSong struct {
	ID   store.SongID    `json:"id"`
	Song json.RawMessage `json:"song"`
}

// ExportLadder is a ladder with where everybody stands.
type ExportLadder struct {
	ID     store.LadderID  `json:"id"`
	Class  store.ClassID   `json:"class"`
	Song   store.SongID    `json:"song"`
	Target string          `json:"target"`
	Name   string          `json:"name"`
	Ladder json.RawMessage `json:"ladder"`
	Places store.Places    `json:"places"`
}

// ExportPattern is a teacher's own pattern.
type ExportPattern struct {
	ID       store.PatternID `json:"id"`
	Name     string          `json:"name"`
	Notation string          `json:"notation"`
}

// Export collects one thing of a kind, archived or not.
func (t *Room) Export(ctx context.Context, teacher store.TeacherID, kind store.Kind, id int64, now time.Time) (e Export, err error) {
	e = Export{Format: exportFormat, Made: now.UTC()}
	switch kind {
	case store.AClass:
		err = t.exportClass(ctx, teacher, store.ClassID(id), &e, 0)
	case store.AStudent:
		var st store.Student
		if st, err = t.Store.Student(ctx, teacher, store.StudentID(id)); err == nil {
			err = t.exportClass(ctx, teacher, st.ClassID, &e, st.ID)
		}
	case store.ASong:
		err = t.exportSong(ctx, teacher, store.SongID(id), &e)
	case store.ALadder:
		err = t.exportLadder(ctx, teacher, store.LadderID(id), &e)
	case store.APattern:
		var p store.Pattern
		p, err = t.Store.Pattern(ctx, teacher, store.PatternID(id))
		e.Patterns = []ExportPattern{{p.ID, p.Name, p.Pattern.String()}}
	default:
		err = store.ErrNotFound
	}
	return e, err
}

// exportClass collects a class with all its students, or with one of them.
func (t *Room) exportClass(ctx context.Context, teacher store.TeacherID, id store.ClassID, e *Export, only store.StudentID) error {
	class, err := t.Store.Class(ctx, teacher, id)
	if err != nil {
		return err
	}
	students, err := t.Store.AllStudents(ctx, teacher, id)
	if err != nil {
		return err
	}
	entries, err := t.Store.Entries(ctx, teacher, id, time.Unix(0, 0))
	if err != nil {
		return err
	}
	out := ExportClass{Class: class}
	for _, st := range students {
		if only != 0 && st.ID != only {
			continue
		}
		one := ExportStudent{Student: st}
		for _, en := range entries {
			if en.StudentID == st.ID {
				one.Heard = append(one.Heard, ExportEntry{en.At, en.LadderID, en.Step.ID, en.Step.Pattern.String(), en.Tempo})
			}
		}
		out.Students = append(out.Students, one)
	}
	e.Classes = append(e.Classes, out)
	return nil
}

func (t *Room) exportSong(ctx context.Context, teacher store.TeacherID, id store.SongID, e *Export) error {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return err
	}
	body, err := sg.Encode()
	e.Songs = append(e.Songs, ExportSong{id, body})
	return err
}

func (t *Room) exportLadder(ctx context.Context, teacher store.TeacherID, id store.LadderID, e *Export) error {
	l, err := t.Store.Ladder(ctx, teacher, id)
	if err != nil {
		return err
	}
	places, err := t.Store.Placements(ctx, teacher, id)
	if err != nil {
		return err
	}
	body, err := l.Encode()
	e.Ladders = append(e.Ladders, ExportLadder{id, l.ClassID, l.SongID, l.Target.String(), l.PatternName, body, places})
	return err
}

// Archived is what is archived and looked for.
func (t *Room) Archived(ctx context.Context, teacher store.TeacherID, find store.Find) (list []store.Archived, more bool, err error) {
	return t.Store.ArchivedOf(ctx, teacher, find)
}

// Archive takes something off its list with everything in it, or brings it back.
func (t *Room) Archive(ctx context.Context, teacher store.TeacherID, kind store.Kind, id int64, off bool) error {
	return t.Store.Archive(ctx, teacher, kind, id, off)
}

// Delete deletes something that is archived. It cannot be undone, so the name is typed.
func (t *Room) Delete(ctx context.Context, teacher store.TeacherID, kind store.Kind, id int64, typed string) error {
	name, err := t.Store.ArchivedName(ctx, teacher, kind, id)
	if err != nil {
		return err
	}
	if typed != name {
		return answer.Refuse("nothing was deleted: type the name, “%s”, to delete it for good", name)
	}
	return t.Store.Delete(ctx, teacher, kind, id)
}
