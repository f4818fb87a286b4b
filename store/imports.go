package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"arplin/core/ladder"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// Incoming is what a file brings, in the order in which it is stored.
type Incoming struct {
	Name         string   // of the file
	Says         say.Line // what it brings
	Patterns     []Coming[Pattern]
	Songs        []Coming[song.Song]
	Classes      []Coming[Class]
	Students     []Coming[Student]
	Ladders      []Coming[Ladder]
	Log          []Coming[Entry]
	Home         []Coming[HomeEntry]
	Takes        []Coming[Take]
	Terms        []Coming[Term]
	Arrangements []Coming[Arranged]
}

// Arranged makes the text of an arrangement with the rows of now.
type Arranged func(row func(ref.UID) int64) (string, error)

// Coming is a thing of an import. What has an id is there already: with a version, it is replaced as the
// newest version; without, it is only referred to.
type Coming[T any] struct {
	UID     ref.UID // in the file
	ID      int64
	Version int
	Is      T

	// What it hangs on in the file, as far as it does.
	Class, Student, Song, Ladder ref.UID
	More                         []ref.UID                 // further ladders, of a term
	Places                       map[ref.UID]ladder.StepID // of students, on a ladder
	Sound                        []byte                    // of a take
}

// imported is what was done to a song or a ladder that a file has replaced.
const imported say.ID = "imported"

// NamedThings are the rows of a teacher's with their names, archived ones, too; entries of the
// log aside.
func (s *Store) NamedThings(ctx context.Context, teacher ref.Teacher) (list []ref.Named, err error) {
	for _, n := range namedTables {
		if n.kind == ref.AnEntry {
			continue
		}
		rows, err := s.db.QueryContext(ctx, "SELECT uid, id FROM "+n.table+" WHERE teacher_id = ?", teacher)
		of, err := database.Collect(rows, err, func(r *sql.Rows) (x ref.Named, err error) { x.Kind = n.kind; return x, r.Scan(&x.UID, &x.ID) })
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
	teacher ref.Teacher
	id      int64
	rows    map[ref.UID]int64
}

// Import stores all that a file brings, or nothing.
func (s *Store) Import(ctx context.Context, teacher ref.Teacher, in Incoming, at time.Time) (id ref.Import, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		im := importer{tx: tx, teacher: teacher, rows: map[ref.UID]int64{}}
		im.id, err = insert(ctx, tx, "INSERT INTO imports (teacher_id, name, says, at) VALUES (?, ?, ?, ?)", teacher, in.Name, in.Says.String(), at.UTC())
		if err != nil {
			return err
		}
		id = ref.Import(im.id)
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
func (im *importer) brought(ctx context.Context, uid ref.UID, kind ref.Kind, row int64, changed bool, version int, was string) error {
	im.rows[uid] = row
	_, err := im.tx.ExecContext(ctx, "INSERT INTO imported (teacher_id, import_id, uid, kind, row_id, changed, version, was) VALUES (?, ?, ?, ?, ?, ?, ?, ?)", im.teacher, im.id, uid, string(kind), row, changed, version, was)
	return err
}

func (im *importer) patterns(ctx context.Context, in Incoming) error {
	for _, p := range in.Patterns {
		switch {
		case p.ID == 0:
			id, err := insert(ctx, im.tx, "INSERT INTO patterns (teacher_id, name, notation, version, created_at, uid) VALUES (?, ?, ?, 1, ?, ?)", im.teacher, p.Is.Name, p.Is.Pattern.String(), time.Now().UTC(), named(p.UID))
			if err == nil {
				err = im.brought(ctx, p.UID, ref.APattern, id, false, 1, "")
			}
			if err != nil {
				return err
			}
		case p.Version > 0:
			var name, notation string
			if err := im.tx.QueryRowContext(ctx, "SELECT name, notation FROM patterns WHERE teacher_id = ? AND id = ? AND version = ? FOR UPDATE", im.teacher, p.ID, p.Version).Scan(&name, &notation); err != nil {
				return staleOr(err, "pattern")
			}
			if _, err := im.tx.ExecContext(ctx, "UPDATE patterns SET name = ?, notation = ?, version = version + 1 WHERE teacher_id = ? AND id = ?", p.Is.Name, p.Is.Pattern.String(), im.teacher, p.ID); err != nil {
				return err
			}
			if err := im.brought(ctx, p.UID, ref.APattern, p.ID, true, p.Version+1, name+"\n"+notation); err != nil {
				return err
			}
		default:
			im.rows[p.UID] = p.ID
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
			im.rows[x.UID] = x.ID
			continue
		}
		if x.ID == 0 {
			id, err := addSong(ctx, im.tx, im.teacher, x.Is, x.UID)
			if err == nil {
				err = im.brought(ctx, x.UID, ref.ASong, id, false, 1, "")
			}
			if err != nil {
				return err
			}
			continue
		}
		sg := x.Is.Numbered()
		body, err := sg.Encode()
		if err != nil {
			return err
		}
		h, err := songDocument.hold(ctx, im.tx, im.teacher, x.ID, x.Version)
		if err != nil {
			return err
		}
		n, err := h.append(ctx, im.tx, say.Of(imported), body)
		if err == nil {
			err = showSong(ctx, im.tx, ref.Song(x.ID), n, sg, body)
		}
		if err == nil {
			err = im.brought(ctx, x.UID, ref.ASong, x.ID, true, x.Version+1, string(h.body))
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
			im.rows[x.UID] = x.ID
			continue
		}
		c := x.Is
		id, err := insert(ctx, im.tx, "INSERT INTO classes (teacher_id, weights, series, uid, "+classFields.columns()+") VALUES (?, ?, ?, ?, "+classFields.marks()+")",
			append([]any{im.teacher, c.Weights, c.Series, named(x.UID)}, classFields.of(&c)...)...)
		if err == nil {
			err = im.brought(ctx, x.UID, ref.AClass, id, false, 1, "")
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
			im.rows[x.UID] = x.ID
			continue
		}
		st := x.Is
		st.ClassID = ref.Class(im.rows[x.Class])
		id, err := addStudent(ctx, im.tx, im.teacher, st, x.UID)
		if err == nil {
			err = im.brought(ctx, x.UID, ref.AStudent, id, false, 1, "")
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
			im.rows[x.UID] = x.ID
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) newerLadder(ctx context.Context, x Coming[Ladder]) error {
	l := x.Is.Ladder
	l.Steps, l.Next = ladder.Numbered(l.Steps, l.Next)
	body, err := l.Encode()
	if err != nil {
		return err
	}
	h, err := ladderDocument.hold(ctx, im.tx, im.teacher, x.ID, x.Version)
	if err == nil {
		err = h.appendMoved(ctx, im.tx, ref.Ladder(x.ID), l, say.Of(imported), body)
	}
	if err != nil {
		return err
	}
	return im.brought(ctx, x.UID, ref.ALadder, x.ID, true, x.Version+1, string(h.body))
}

func (im *importer) newLadder(ctx context.Context, x Coming[Ladder]) error {
	l := x.Is
	l.ClassID, l.SongID = ref.Class(im.rows[x.Class]), ref.Song(im.rows[x.Song])
	id, err := addLadder(ctx, im.tx, im.teacher, l, x.UID)
	if err == nil {
		err = im.brought(ctx, x.UID, ref.ALadder, id, false, 1, "")
	}
	if err != nil {
		return err
	}
	places := Places{}
	for uid, step := range x.Places {
		if row := im.rows[uid]; row != 0 && ladder.Find(l.Steps, step) >= 0 {
			places[ref.Student(row)] = step
		}
	}
	students := make([]ref.Student, 0, len(places))
	for st := range places {
		students = append(students, st)
	}
	if err := ofClass(ctx, im.tx, im.teacher, ref.Ladder(id), students); err != nil {
		return err
	}
	return setPlaces(ctx, im.tx, im.teacher, ref.Ladder(id), places)
}

func (im *importer) log(ctx context.Context, in Incoming) error {
	for _, x := range in.Log {
		e := x.Is
		e.StudentID, e.LadderID = ref.Student(im.rows[x.Student]), ref.Ladder(im.rows[x.Ladder])
		id, err := addEntry(ctx, im.tx, im.teacher, e, string(x.UID), x.UID)
		if err == nil {
			err = im.brought(ctx, x.UID, ref.AnEntry, int64(id), false, 1, "")
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) terms(ctx context.Context, in Incoming) error {
	for _, x := range in.Terms {
		t := x.Is
		for _, uid := range x.More {
			t.More = append(t.More, ref.Ladder(im.rows[uid]))
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
		body, err := x.Is(func(uid ref.UID) int64 { return im.rows[uid] })
		if err == nil {
			_, err = im.tx.ExecContext(ctx, "INSERT IGNORE INTO arrangements (teacher_id, ladder_id, body) SELECT l.teacher_id, l.id, ? FROM ladders l WHERE l.teacher_id = ? AND l.id = ?", body, im.teacher, im.rows[x.Ladder])
		}
		if err != nil {
			return err
		}
	}
	return nil
}
