package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/vary"
)

// Ladder is a stored staircase for a song and a class.
type Ladder struct {
	ID          int64
	ClassID     int64
	SongID      int64
	SongTitle   string
	Part        string // of the song, by name; empty for the whole of it
	Order       vary.Order
	PatternName string
	Target      hand.Pattern
	Steps       []vary.Step
	Archived    bool
	Version     int
}

// stepRow is a step as the table keeps it.
type stepRow struct {
	Pattern string  `json:"pattern"`
	Adds    string  `json:"adds"`
	Says    string  `json:"says"`
	Over    string  `json:"over,omitempty"`
	Level   float64 `json:"level,omitempty"`
	Pinned  bool    `json:"pinned,omitempty"`
	Play    string  `json:"play,omitempty"`
	Pace    int     `json:"pace,omitempty"`
}

func encodeSteps(steps []vary.Step) ([]byte, error) {
	rows := make([]stepRow, len(steps))
	for i, st := range steps {
		rows[i] = stepRow{st.Pattern.String(), st.Adds, st.Says, st.Over, st.Level, st.Pinned, string(st.Play), st.Pace}
	}
	return json.Marshal(rows)
}

func decodeSteps(text []byte) ([]vary.Step, error) {
	var rows []stepRow
	if err := json.Unmarshal(text, &rows); err != nil {
		return nil, err
	}
	var steps []vary.Step
	for _, r := range rows {
		p, err := hand.Parse(r.Pattern)
		if err != nil {
			return nil, err
		}
		steps = append(steps, vary.Step{Pattern: p, Adds: r.Adds, Says: r.Says, Over: r.Over, Level: r.Level, Pinned: r.Pinned, Play: demand.Play(r.Play), Pace: r.Pace})
	}
	return steps, nil
}

// AddLadder stores a new ladder.
func (s *Store) AddLadder(ctx context.Context, teacher int64, l Ladder) (int64, error) {
	steps, err := encodeSteps(l.Steps)
	if err != nil {
		return 0, fmt.Errorf("adding a ladder: %w", err)
	}
	var id int64
	err = s.inTx(ctx, func(tx *sql.Tx) (err error) {
		id, err = insert(ctx, tx, `INSERT INTO ladders (teacher_id, class_id, song_id, part, build_order, pattern_name, target, steps, created_at)
			SELECT ?, c.id, g.id, ?, ?, ?, ?, ?, ? FROM classes c, songs g WHERE c.id = ? AND c.teacher_id = ? AND g.id = ? AND g.teacher_id = ?`,
			teacher, l.Part, string(l.Order), l.PatternName, l.Target.String(), steps, time.Now().UTC(), l.ClassID, teacher, l.SongID, teacher)
		if err == nil && id != 0 {
			_, err = tx.ExecContext(ctx, "INSERT INTO ladder_history (ladder_id, n, says, steps, build_order) VALUES (?, 1, '', ?, ?)", id, steps, string(l.Order))
		}
		return err
	})
	if err == nil && id == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return 0, fmt.Errorf("adding a ladder: %w", err)
	}
	return id, nil
}

const ladderQuery = `SELECT l.id, l.class_id, l.song_id, g.title, l.part, l.build_order, l.pattern_name, l.target, l.steps, l.archived, l.version
	FROM ladders l JOIN songs g ON g.id = l.song_id WHERE l.teacher_id = ?`

func scanLadder(scan func(...any) error) (l Ladder, err error) {
	var target, order string
	var steps []byte
	if err := scan(&l.ID, &l.ClassID, &l.SongID, &l.SongTitle, &l.Part, &order, &l.PatternName, &target, &steps, &l.Archived, &l.Version); err != nil {
		return l, err
	}
	if l.Order, err = vary.ParseOrder(order); err != nil {
		return l, fmt.Errorf("ladder %d: %w", l.ID, err)
	}
	if l.Target, err = hand.Parse(target); err != nil {
		return l, fmt.Errorf("ladder %d: %w", l.ID, err)
	}
	if l.Steps, err = decodeSteps(steps); err != nil {
		return l, fmt.Errorf("ladder %d: %w", l.ID, err)
	}
	return l, nil
}

// Ladder finds one of the teacher's ladders, archived or not.
func (s *Store) Ladder(ctx context.Context, teacher, id int64) (Ladder, error) {
	l, err := scanLadder(s.db.QueryRowContext(ctx, ladderQuery+" AND l.id = ?", teacher, id).Scan)
	return l, notFound(err, "ladder")
}

// Ladders lists a class's ladders, the newest first, the archived ones left out.
func (s *Store) Ladders(ctx context.Context, teacher, class int64) ([]Ladder, error) {
	rows, err := s.db.QueryContext(ctx, ladderQuery+" AND l.class_id = ? AND NOT l.archived ORDER BY l.created_at DESC, l.id DESC", teacher, class)
	return collect(rows, err, func(r *sql.Rows) (Ladder, error) { return scanLadder(r.Scan) })
}

// ArchiveLadder takes a ladder off the list or puts it back.
func (s *Store) ArchiveLadder(ctx context.Context, teacher, id int64, archived bool) error {
	return s.archive(ctx, "ladders", teacher, id, archived)
}

// Place puts a student on a step and returns the step before, -1 for none. The
// student must be of the ladder's class.
func (s *Store) Place(ctx context.Context, teacher, ladder, student int64, step int) (was int, err error) {
	before, err := s.PlaceAll(ctx, teacher, ladder, map[int64]int{student: step})
	return before[student], err
}

// PlaceAll puts students on steps, all of them or none; -1 takes one off. It
// returns the steps before.
func (s *Store) PlaceAll(ctx context.Context, teacher, ladder int64, steps map[int64]int) (was map[int64]int, err error) {
	was = map[int64]int{}
	err = s.inTx(ctx, func(tx *sql.Tx) error {
		for _, student := range slices.Sorted(maps.Keys(steps)) { // in one order, so that two at once do not wait for each other
			before, err := place(ctx, tx, teacher, ladder, student, steps[student])
			if err != nil {
				return err
			}
			was[student] = before
		}
		return nil
	})
	return was, err
}

func place(ctx context.Context, tx *sql.Tx, teacher, ladder, student int64, step int) (was int, err error) {
	was = -1
	var found int64
	err = tx.QueryRowContext(ctx, `SELECT t.id FROM ladders l JOIN students t ON t.class_id = l.class_id AND t.teacher_id = l.teacher_id
		WHERE l.teacher_id = ? AND l.id = ? AND t.id = ?`, teacher, ladder, student).Scan(&found)
	if err != nil {
		return was, notFound(err, "student on this ladder")
	}
	err = tx.QueryRowContext(ctx, "SELECT step FROM placements WHERE ladder_id = ? AND student_id = ? FOR UPDATE", ladder, student).Scan(&was)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return was, err
	}
	if step < 0 {
		_, err = tx.ExecContext(ctx, "DELETE FROM placements WHERE ladder_id = ? AND student_id = ?", ladder, student)
		return was, err
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO placements (ladder_id, student_id, teacher_id, step) VALUES (?, ?, ?, ?)
		ON DUPLICATE KEY UPDATE step = VALUES(step)`, ladder, student, teacher, step)
	return was, err
}

// Placements maps the students of a ladder to their steps.
func (s *Store) Placements(ctx context.Context, teacher, ladder int64) (map[int64]int, error) {
	type row struct {
		student int64
		step    int
	}
	rows, err := s.db.QueryContext(ctx, "SELECT student_id, step FROM placements WHERE teacher_id = ? AND ladder_id = ?", teacher, ladder)
	list, err := collect(rows, err, func(r *sql.Rows) (v row, err error) { return v, r.Scan(&v.student, &v.step) })
	places := make(map[int64]int, len(list))
	for _, v := range list {
		places[v.student] = v.step
	}
	return places, err
}
