package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/store/database"
)

// UID names a thing for good, across accounts and machines.
type UID string

// ImportID names an import.
type ImportID int64

// The kinds of things that are named so, beside those that can be archived.
const AnEntry Kind = "entry"

// Incoming is what a file brings, in the order in which it is stored. What has an id is there already:
// with a version, it is replaced as the newest version; without, it is only referred to.
type Incoming struct {
	Name         string   // of the file
	Says         say.Line // what it brings
	Patterns     []IncomingPattern
	Songs        []IncomingSong
	Classes      []IncomingClass
	Students     []IncomingStudent
	Ladders      []IncomingLadder
	Log          []IncomingEntry
	Home         []IncomingHome
	Takes        []IncomingTake
	Terms        []IncomingTerm
	Arrangements []IncomingArrangement
}

// The things of an import.
type (
	IncomingPattern struct {
		UID     UID
		ID      PatternID
		Version int
		Name    string
		Pattern pattern.Pattern
	}
	IncomingSong struct {
		UID     UID
		ID      SongID
		Version int
		Song    song.Song
	}
	IncomingClass struct {
		UID   UID
		ID    ClassID
		Class Class
	}
	IncomingStudent struct {
		UID, Class UID
		ID         StudentID
		Student    Student
	}
	IncomingLadder struct {
		UID, Class, Song UID
		ID               LadderID
		Version          int
		Ladder           Ladder
		Places           map[UID]ladder.StepID
	}
	IncomingEntry struct {
		UID, Student, Ladder UID
		Entry                Entry
	}
	IncomingHome struct {
		Student, Ladder UID // of a student who is new; no ladder where it is about none
		Entry           HomeEntry
	}
	IncomingTake struct {
		Student, Ladder UID // of a student who is new; no ladder where it is on none
		Take            Take
		Sound           []byte
	}
	IncomingTerm struct {
		Class, Ladder UID
		More          []UID // further ladders
		Term          Term
	}
	IncomingArrangement struct {
		Ladder UID
		Body   func(row func(UID) int64) (string, error) // with the rows of now
	}
)

// imported is what was done to a song or a ladder that a file has replaced.
const imported say.ID = "imported"

// Imported is what was done when a file brought a newer version.
func Imported() say.Line { return say.Of(imported) }

// Named is a row with its name for good.
type Named struct {
	UID UID
	Thing
}

// NamedThings are the rows of a teacher's with their names, archived ones, too; entries of the
// log aside.
func (s *Store) NamedThings(ctx context.Context, teacher TeacherID) (list []Named, err error) {
	for _, n := range namedTables {
		if n.kind == AnEntry {
			continue
		}
		rows, err := s.db.QueryContext(ctx, "SELECT uid, id FROM "+n.table+" WHERE teacher_id = ?", teacher)
		of, err := database.Collect(rows, err, func(r *sql.Rows) (x Named, err error) { x.Kind = n.kind; return x, r.Scan(&x.UID, &x.ID) })
		if err != nil {
			return nil, err
		}
		list = append(list, of...)
	}
	return list, nil
}

// importer carries one import out.
type importer struct {
	tx      *sql.Tx
	teacher TeacherID
	id      int64
	rows    map[UID]int64
}

// Import stores all that a file brings, or nothing.
func (s *Store) Import(ctx context.Context, teacher TeacherID, in Incoming, at time.Time) (id ImportID, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		im := importer{tx: tx, teacher: teacher, rows: map[UID]int64{}}
		im.id, err = insert(ctx, tx, "INSERT INTO imports (teacher_id, name, says, at) VALUES (?, ?, ?, ?)", teacher, in.Name, in.Says.String(), at.UTC())
		if err != nil {
			return err
		}
		id = ImportID(im.id)
		for _, part := range []func(context.Context, Incoming) error{im.patterns, im.songs, im.classes, im.students, im.ladders, im.log, im.home, im.takes, im.terms, im.arrangements} {
			if err := part(ctx, in); err != nil {
				return err
			}
		}
		f, err := footprintOf(ctx, tx, teacher, id)
		if err == nil {
			_, err = tx.ExecContext(ctx, "UPDATE imports SET footprint = ? WHERE teacher_id = ? AND id = ?", f.encode(), teacher, id)
		}
		return err
	})
	if database.IsDuplicate(err) { // what the file brings was stored a moment ago
		return 0, fmt.Errorf("importing: %w", &StaleError{what: "import"})
	}
	if err != nil {
		return 0, fmt.Errorf("importing: %w", err)
	}
	return id, nil
}

// brought notes what came, under its name.
func (im *importer) brought(ctx context.Context, uid UID, kind Kind, row int64, changed bool, version int, was string) error {
	im.rows[uid] = row
	_, err := im.tx.ExecContext(ctx, "INSERT INTO imported (teacher_id, import_id, uid, kind, row_id, changed, version, was) VALUES (?, ?, ?, ?, ?, ?, ?, ?)", im.teacher, im.id, uid, string(kind), row, changed, version, was)
	return err
}

func (im *importer) patterns(ctx context.Context, in Incoming) error {
	for _, p := range in.Patterns {
		switch {
		case p.ID == 0:
			id, err := insert(ctx, im.tx, "INSERT INTO patterns (teacher_id, name, notation, version, created_at, uid) VALUES (?, ?, ?, 1, ?, ?)", im.teacher, p.Name, p.Pattern.String(), time.Now().UTC(), named(p.UID))
			if err == nil {
				err = im.brought(ctx, p.UID, APattern, id, false, 1, "")
			}
			if err != nil {
				return err
			}
		case p.Version > 0:
			var name, notation string
			if err := im.tx.QueryRowContext(ctx, "SELECT name, notation FROM patterns WHERE teacher_id = ? AND id = ? AND version = ? FOR UPDATE", im.teacher, p.ID, p.Version).Scan(&name, &notation); err != nil {
				return staleOr(err, "pattern")
			}
			if _, err := im.tx.ExecContext(ctx, "UPDATE patterns SET name = ?, notation = ?, version = version + 1 WHERE teacher_id = ? AND id = ?", p.Name, p.Pattern.String(), im.teacher, p.ID); err != nil {
				return err
			}
			if err := im.brought(ctx, p.UID, APattern, int64(p.ID), true, p.Version+1, name+"\n"+notation); err != nil {
				return err
			}
		default:
			im.rows[p.UID] = int64(p.ID)
		}
	}
	return nil
}

// staleOr is what it means that a version is not there.
func staleOr(err error, what string) error {
	if errors.Is(err, sql.ErrNoRows) {
		return &StaleError{what: what}
	}
	return err
}

func (im *importer) songs(ctx context.Context, in Incoming) error {
	for _, x := range in.Songs {
		if x.ID != 0 && x.Version == 0 {
			im.rows[x.UID] = int64(x.ID)
			continue
		}
		if x.ID == 0 {
			id, err := addSong(ctx, im.tx, im.teacher, x.Song, x.UID)
			if err == nil {
				err = im.brought(ctx, x.UID, ASong, id, false, 1, "")
			}
			if err != nil {
				return err
			}
			continue
		}
		sg := x.Song.Numbered()
		body, err := sg.Encode()
		if err != nil {
			return err
		}
		h, err := songDocument.hold(ctx, im.tx, im.teacher, int64(x.ID), x.Version)
		if err != nil {
			return err
		}
		n, err := h.append(ctx, im.tx, Imported(), body)
		if err == nil {
			err = showSong(ctx, im.tx, x.ID, n, sg, body)
		}
		if err == nil {
			err = im.brought(ctx, x.UID, ASong, int64(x.ID), true, x.Version+1, string(h.body))
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) classes(ctx context.Context, in Incoming) error {
	for _, x := range in.Classes {
		if x.ID != 0 {
			im.rows[x.UID] = int64(x.ID)
			continue
		}
		c := x.Class
		id, err := insert(ctx, im.tx, "INSERT INTO classes (teacher_id, weights, series, uid, "+classFields.columns()+") VALUES (?, ?, ?, ?, "+classFields.marks()+")",
			append([]any{im.teacher, c.Weights, c.Series, named(x.UID)}, classFields.of(&c)...)...)
		if err == nil {
			err = im.brought(ctx, x.UID, AClass, id, false, 1, "")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) students(ctx context.Context, in Incoming) error {
	for _, x := range in.Students {
		if x.ID != 0 {
			im.rows[x.UID] = int64(x.ID)
			continue
		}
		st := x.Student
		st.ClassID = ClassID(im.rows[x.Class])
		id, err := addStudent(ctx, im.tx, im.teacher, st, x.UID)
		if err == nil {
			err = im.brought(ctx, x.UID, AStudent, id, false, 1, "")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) ladders(ctx context.Context, in Incoming) error {
	for _, x := range in.Ladders {
		var err error
		switch {
		case x.ID == 0:
			err = im.newLadder(ctx, x)
		case x.Version > 0:
			err = im.newerLadder(ctx, x)
		default:
			im.rows[x.UID] = int64(x.ID)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) newerLadder(ctx context.Context, x IncomingLadder) error {
	l := x.Ladder.Ladder
	l.Steps, l.Next = ladder.Numbered(l.Steps, l.Next)
	body, err := l.Encode()
	if err != nil {
		return err
	}
	h, err := ladderDocument.hold(ctx, im.tx, im.teacher, int64(x.ID), x.Version)
	if err == nil {
		err = h.appendMoved(ctx, im.tx, x.ID, l, Imported(), body)
	}
	if err != nil {
		return err
	}
	return im.brought(ctx, x.UID, ALadder, int64(x.ID), true, x.Version+1, string(h.body))
}

func (im *importer) newLadder(ctx context.Context, x IncomingLadder) error {
	l := x.Ladder
	l.ClassID, l.SongID = ClassID(im.rows[x.Class]), SongID(im.rows[x.Song])
	id, err := addLadder(ctx, im.tx, im.teacher, l, x.UID)
	if err == nil {
		err = im.brought(ctx, x.UID, ALadder, id, false, 1, "")
	}
	if err != nil {
		return err
	}
	places := Places{}
	for uid, step := range x.Places {
		if row := im.rows[uid]; row != 0 && ladder.Find(l.Steps, step) >= 0 {
			places[StudentID(row)] = step
		}
	}
	students := make([]StudentID, 0, len(places))
	for st := range places {
		students = append(students, st)
	}
	if err := ofClass(ctx, im.tx, im.teacher, LadderID(id), students); err != nil {
		return err
	}
	return setPlaces(ctx, im.tx, im.teacher, LadderID(id), places)
}

func (im *importer) log(ctx context.Context, in Incoming) error {
	for _, x := range in.Log {
		e := x.Entry
		e.StudentID, e.LadderID = StudentID(im.rows[x.Student]), LadderID(im.rows[x.Ladder])
		id, err := addEntry(ctx, im.tx, im.teacher, e, string(x.UID), x.UID)
		if err == nil {
			err = im.brought(ctx, x.UID, AnEntry, int64(id), false, 1, "")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) terms(ctx context.Context, in Incoming) error {
	for _, x := range in.Terms {
		t := x.Term
		for _, uid := range x.More {
			t.More = append(t.More, LadderID(im.rows[uid]))
		}
		if _, err := im.tx.ExecContext(ctx, `INSERT IGNORE INTO terms (teacher_id, class_id, ladder_id, begins, concert, name, at_hour, off_weeks, more_ladders) SELECT l.teacher_id, l.class_id, l.id, ?, ?, ?, ?, ?, ? FROM ladders l WHERE l.teacher_id = ? AND l.class_id = ? AND l.id = ?`,
			t.Begins.Format(time.DateOnly), t.Concert.Format(time.DateOnly), t.Name, t.At, t.offText(), t.moreText(), im.teacher, im.rows[x.Class], im.rows[x.Ladder]); err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) arrangements(ctx context.Context, in Incoming) error {
	for _, x := range in.Arrangements {
		body, err := x.Body(func(uid UID) int64 { return im.rows[uid] })
		if err == nil {
			_, err = im.tx.ExecContext(ctx, "INSERT IGNORE INTO arrangements (teacher_id, ladder_id, body) SELECT l.teacher_id, l.id, ? FROM ladders l WHERE l.teacher_id = ? AND l.id = ?", body, im.teacher, im.rows[x.Ladder])
		}
		if err != nil {
			return err
		}
	}
	return nil
}
