package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"time"

	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// Ladder is a stored ladder for a song and a class.
type Ladder struct {
	ID          ref.Ladder
	ClassID     ref.Class
	SongID      ref.Song
	SongTitle   string
	Sections    []song.SectionID // of the song; none for the whole of it
	Instrument  string           // for which its levels are measured, a fretboard id
	PatternName string
	Target      pattern.Pattern
	Archived    bool
	Progress    Progress
	Version     int
	Concert     time.Time // the day of the class's concert, where the ladder is the concert's
	Moves
	ladder.Ladder
}

// LadderLine is a ladder in a list.
type LadderLine struct {
	ID          ref.Ladder
	SongID      ref.Song
	SongTitle   string
	Sections    []song.SectionID
	PatternName string
	Target      pattern.Pattern
	Steps       int
	Progress    Progress
}

// Places maps students to the steps on which they stand.
type Places map[ref.Student]ladder.StepID

// AddLadder stores a new ladder as version 1.
func (s *Store) AddLadder(ctx context.Context, teacher ref.Teacher, l Ladder) (ref.Ladder, error) {
	var id int64
	err := s.db.InTx(ctx, func(tx *sql.Tx) error {
		sections, err := encodeSections(l.Sections)
		if err != nil {
			return err
		}
		if err := makeRoom(ctx, tx, teacher, l, sections); err != nil {
			return err
		}
		if l.PatternName, err = nameApart(ctx, tx, teacher, l); err != nil {
			return err
		}
		l.Progress = Now
		id, err = addLadder(ctx, tx, teacher, l, "")
		return err
	})
	if err != nil {
		return 0, fmt.Errorf("adding a ladder: %w", err)
	}
	return ref.Ladder(id), nil
}

// addLadder stores a ladder of a class and a song that are the teacher's, where it has come to.
func addLadder(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, l Ladder, uid ref.UID) (int64, error) {
	l.Steps, l.Next = ladder.Numbered(l.Steps, l.Next)
	body, err := l.Encode()
	if err != nil {
		return 0, err
	}
	sections, err := encodeSections(l.Sections)
	if err != nil {
		return 0, err
	}
	id, err := insert(ctx, tx, `INSERT INTO ladders (teacher_id, class_id, song_id, sections, instrument, pattern_name, target, body, next_id, step_count, progress, created_at, uid)
		SELECT ?, c.id, g.id, ?, ?, ?, ?, ?, ?, ?, ?, ?, ? FROM classes c, songs g WHERE c.id = ? AND c.teacher_id = ? AND g.id = ? AND g.teacher_id = ?`,
		teacher, sections, l.Instrument, l.PatternName, l.Target.String(), body, l.Next, len(l.Steps), l.Progress, time.Now().UTC(), named(uid), l.ClassID, teacher, l.SongID, teacher)
	if err == nil && id == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return 0, err
	}
	return id, ladderDocument.begin(ctx, tx, teacher, id, body)
}

var ladderColumns = `x.id, x.class_id, x.song_id, g.title, x.sections, x.instrument, x.pattern_name, x.target, x.archived, x.progress, x.version, x.next_id, x.body, ` + ladderDocument.movesSQL("x") + `,
	(SELECT t.concert FROM terms t WHERE t.class_id = x.class_id AND (t.ladder_id = x.id OR FIND_IN_SET(x.id, t.more_ladders) > 0))`

const ofLadders = ` FROM ladders x JOIN songs g ON g.id = x.song_id WHERE x.teacher_id = ?`

var ladderQuery = "SELECT " + ladderColumns + ofLadders

// ladderRow is a ladder as its columns are read.
type ladderRow struct {
	Ladder
	target, sections string
	body             []byte
	next             int
	concert          sql.NullTime
}

func (r *ladderRow) to() []any {
	return []any{&r.ID, &r.ClassID, &r.SongID, &r.SongTitle, &r.sections, &r.Instrument, &r.PatternName, &r.target, &r.Archived, &r.Progress, &r.Version, &r.next, &r.body, &r.Undo, &r.Redo, &r.concert}
}

func (r *ladderRow) read() (l Ladder, err error) {
	l = r.Ladder
	l.Concert = r.concert.Time
	if l.Ladder, err = ladder.Decode(r.body); err != nil {
		return l, fmt.Errorf("ladder %d: %w", l.ID, err)
	}
	if l.Target, err = pattern.Decode(r.target); err != nil {
		return l, fmt.Errorf("ladder %d: %w", l.ID, err)
	}
	if l.Sections, err = decodeSections(r.sections); err != nil {
		return l, fmt.Errorf("ladder %d: %w", l.ID, err)
	}
	l.Next = max(l.Next, r.next) // ids that were undone are not given again
	return l, nil
}

func scanLadder(scan func(...any) error) (Ladder, error) {
	var r ladderRow
	if err := scan(r.to()...); err != nil {
		return Ladder{}, err
	}
	return r.read()
}

// Ladder finds one of the teacher's ladders, archived or not.
func (s *Store) Ladder(ctx context.Context, teacher ref.Teacher, id ref.Ladder) (Ladder, error) {
	l, err := scanLadder(s.db.QueryRowContext(ctx, ladderQuery+" AND x.id = ?", teacher, id).Scan)
	return l, notFound(err, "ladder")
}

// LaddersOf finds several of the teacher's ladders at once, archived or not.
func (s *Store) LaddersOf(ctx context.Context, teacher ref.Teacher, ids []ref.Ladder) (map[ref.Ladder]Ladder, error) {
	rows, err := queryIn(ctx, s.db, ladderQuery+" AND x.id IN ", teacher, ids)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (Ladder, error) { return scanLadder(r.Scan) })
	by := map[ref.Ladder]Ladder{}
	for _, l := range list {
		by[l.ID] = l
	}
	return by, err
}

const ladderLines = `SELECT x.id, x.song_id, g.title, x.sections, x.pattern_name, x.target, x.step_count, x.progress
	FROM ladders x JOIN songs g ON g.id = x.song_id WHERE x.teacher_id = ?`

func scanLadderLine(r *sql.Rows) (l LadderLine, err error) {
	var target, sections string
	if err := r.Scan(&l.ID, &l.SongID, &l.SongTitle, &sections, &l.PatternName, &target, &l.Steps, &l.Progress); err != nil {
		return l, err
	}
	if l.Sections, err = decodeSections(sections); err != nil {
		return l, err
	}
	l.Target, err = pattern.Decode(target)
	return l, err
}

// Ladders lists a page of a class's ladders, the newest first, the archived ones
// left out; more tells whether there is another page.
func (s *Store) Ladders(ctx context.Context, teacher ref.Teacher, class ref.Class, f Find) (list []LadderLine, more bool, err error) {
	where, args := f.where("g.title", "x.pattern_name")
	limit, bounds := f.limit()
	rows, err := s.db.QueryContext(ctx, ladderLines+` AND x.class_id = ? AND x.archived = FALSE`+where+` ORDER BY x.created_at DESC, x.id DESC`+limit,
		append(append([]any{teacher, class}, args...), bounds...)...)
	list, err = database.Collect(rows, err, scanLadderLine)
	list, more = paged(list)
	return list, more, err
}

// SaveLadder stores edited steps of the ladder's version with what was done, and
// moves the students along: whoever stood on a step stands on it still. A
// version that is not the newest is a StaleError.
func (s *Store) SaveLadder(ctx context.Context, teacher ref.Teacher, edited Ladder, d say.Line) error {
	body, err := edited.Encode()
	if err != nil {
		return fmt.Errorf("saving a ladder: %w", err)
	}
	return s.db.InTx(ctx, func(tx *sql.Tx) error {
		h, err := ladderDocument.hold(ctx, tx, teacher, int64(edited.ID), edited.Version)
		if err != nil {
			return err
		}
		return h.appendMoved(ctx, tx, edited.ID, edited.Ladder, d, body)
	})
}

// appendMoved writes a revision of a ladder, in which whoever stood on a step stands on it still.
func (h held) appendMoved(ctx context.Context, tx *sql.Tx, id ref.Ladder, edited ladder.Ladder, d say.Line, body []byte) error {
	was, err := ladder.Decode(h.body)
	if err != nil {
		return err
	}
	places, err := placesIn(ctx, tx, id)
	if err != nil {
		return err
	}
	for student, step := range places {
		places[student] = ladder.Moved(was.Steps, edited.Steps, step)
	}
	if err := setPlaces(ctx, tx, h.teacher, id, places); err != nil {
		return err
	}
	return h.appendLadder(ctx, tx, edited, d, body)
}

// appendLadder writes a revision of a ladder with the places of now in it.
func (h held) appendLadder(ctx context.Context, tx *sql.Tx, l ladder.Ladder, d say.Line, body []byte) error {
	n, err := h.append(ctx, tx, d, body)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, "UPDATE decisions SET n = -1 WHERE ladder_id = ? AND n > ?", h.id, h.head); err != nil { // cannot be done again
		return err
	}
	if _, err := tx.ExecContext(ctx, "INSERT INTO revision_places (ladder_id, n, student_id, step_id) SELECT ladder_id, ?, student_id, step_id FROM placements WHERE ladder_id = ?", n, h.id); err != nil {
		return err
	}
	return showLadder(ctx, tx, ref.Ladder(h.id), n, l, body)
}

// showLadder makes a revision the ladder's newest version.
func showLadder(ctx context.Context, tx *sql.Tx, id ref.Ladder, head int, l ladder.Ladder, body []byte) error {
	_, err := tx.ExecContext(ctx, "UPDATE ladders SET version = version + 1, head = ?, body = ?, step_count = ?, next_id = GREATEST(next_id, ?) WHERE id = ?", head, body, len(l.Steps), l.Next, id)
	return err
}

// Moved is what going back or forward in a ladder's history has done.
type Moved struct {
	Done   say.Line
	Before Places // of the students who stand elsewhere now
	Now    Places
}

// MoveLadder goes one step back (-1) or forward (+1) in the history of a ladder's
// version: steps, order and where everybody stood.
func (s *Store) MoveLadder(ctx context.Context, teacher ref.Teacher, id ref.Ladder, version, by int) (m Moved, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		h, err := ladderDocument.hold(ctx, tx, teacher, int64(id), version)
		if err != nil {
			return err
		}
		var body []byte
		if body, m.Done, err = h.step(ctx, tx, by); err != nil {
			return err
		}
		l, err := ladder.Decode(body)
		if err != nil {
			return err
		}
		if m.Before, err = placesIn(ctx, tx, id); err != nil {
			return err
		}
		rows, err := tx.QueryContext(ctx, "SELECT student_id, step_id FROM revision_places WHERE ladder_id = ? AND n = ?", id, h.head+by)
		if m.Now, err = collectPlaces(rows, err); err != nil {
			return err
		}
		if err := setPlaces(ctx, tx, teacher, id, m.Now); err != nil {
			return err
		}
		return showLadder(ctx, tx, id, h.head+by, l, body)
	})
	return m, err
}

// Place puts students on steps, all of them or none, as one revision; step 0
// takes one off. It returns where they stood, and the new version. Who is placed and which steps are
// there is what the ladder has now, whatever version the page showed. What was decided is
// kept with it; ErrMoved when somebody does not stand where that was decided about.
func (s *Store) Place(ctx context.Context, teacher ref.Teacher, id ref.Ladder, places Places, decided ...Decision) (was Places, version int, err error) {
	was = Places{}
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		if err := tx.QueryRowContext(ctx, "SELECT version FROM ladders WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, id).Scan(&version); err != nil {
			return notFound(err, "ladder")
		}
		h, err := ladderDocument.hold(ctx, tx, teacher, int64(id), version)
		if err != nil {
			return err
		}
		l, err := ladder.Decode(h.body)
		if err != nil {
			return err
		}
		now, err := placesIn(ctx, tx, id)
		if err != nil {
			return err
		}
		for _, d := range decided {
			if now[d.StudentID] != d.Step {
				return ErrMoved
			}
		}
		for student, step := range places {
			if step != 0 && ladder.Find(l.Steps, step) < 0 {
				return fmt.Errorf("step: %w", ErrNotFound)
			}
			was[student] = now[student]
			if now[student] = step; step == 0 {
				delete(now, student)
			}
		}
		if err := ofClass(ctx, tx, teacher, id, slices.Collect(maps.Keys(places))); err != nil {
			return err
		}
		if err := setPlaces(ctx, tx, teacher, id, now); err != nil {
			return err
		}
		if err := h.appendLadder(ctx, tx, l, edit.Placed(), h.body); err != nil {
			return err
		}
		return addDecisions(ctx, tx, teacher, id, h.head+1, decided)
	})
	return was, version + 1, err
}

// ofClass checks that students are of the ladder's class.
func ofClass(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id ref.Ladder, students []ref.Student) error {
	for _, st := range students {
		var found ref.Student
		err := tx.QueryRowContext(ctx, `SELECT t.id FROM ladders l JOIN students t ON t.class_id = l.class_id AND t.teacher_id = l.teacher_id
			WHERE l.teacher_id = ? AND l.id = ? AND t.id = ?`, teacher, id, st).Scan(&found)
		if err != nil {
			return notFound(err, "student on this ladder")
		}
	}
	return nil
}

func collectPlaces(rows *sql.Rows, err error) (Places, error) {
	type place struct {
		student ref.Student
		step    ladder.StepID
	}
	list, err := database.Collect(rows, err, func(r *sql.Rows) (p place, err error) { return p, r.Scan(&p.student, &p.step) })
	places := make(Places, len(list))
	for _, p := range list {
		places[p.student] = p.step
	}
	return places, err
}

func placesIn(ctx context.Context, tx *sql.Tx, id ref.Ladder) (Places, error) {
	rows, err := tx.QueryContext(ctx, "SELECT student_id, step_id FROM placements WHERE ladder_id = ?", id)
	return collectPlaces(rows, err)
}

// setPlaces makes the places of a ladder those given.
func setPlaces(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id ref.Ladder, places Places) error {
	if _, err := tx.ExecContext(ctx, "DELETE FROM placements WHERE ladder_id = ?", id); err != nil {
		return err
	}
	for _, student := range slices.Sorted(maps.Keys(places)) {
		if _, err := tx.ExecContext(ctx, "INSERT INTO placements (teacher_id, ladder_id, student_id, step_id) VALUES (?, ?, ?, ?)", teacher, id, student, places[student]); err != nil {
			return err
		}
	}
	return nil
}

// Placements maps the students of a ladder to their steps; archived ones are
// left out.
func (s *Store) Placements(ctx context.Context, teacher ref.Teacher, id ref.Ladder) (Places, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT p.student_id, p.step_id FROM placements p JOIN students t ON t.id = p.student_id WHERE p.teacher_id = ? AND p.ladder_id = ? AND t.archived = FALSE", teacher, id)
	return collectPlaces(rows, err)
}

func encodeSections(ids []song.SectionID) (string, error) {
	if len(ids) == 0 {
		return "", nil
	}
	text, err := json.Marshal(ids)
	return string(text), err
}

func decodeSections(text string) (ids []song.SectionID, err error) {
	if text == "" {
		return nil, nil
	}
	return ids, json.Unmarshal([]byte(text), &ids)
}
