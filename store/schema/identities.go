package schema

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/song"
	"arplin/store/database"
)

// carryIdentities is migration 9: songs and ladders of a time without ids get
// them along their histories, so that undo and redo keep naming the same bars
// and steps; places, entries and drills follow. It reads what 8 has left and can
// be run again from there, since it is one transaction.
func carryIdentities(ctx context.Context, tx *sql.Tx) error {
	if err := carrySongs(ctx, tx); err != nil {
		return fmt.Errorf("songs: %w", err)
	}
	if err := carryLadders(ctx, tx); err != nil {
		return fmt.Errorf("ladders: %w", err)
	}
	return nil
}

type oldRevision struct {
	n          int
	says, body string
	order      string // of ladders
}

// owned is a row with its owner and its place in its history.
type owned struct {
	teacher, id int64
	head        int
}

func ownedRows(ctx context.Context, tx *sql.Tx, table string) ([]owned, error) {
	rows, err := tx.QueryContext(ctx, "SELECT teacher_id, id, head FROM "+table+" ORDER BY id")
	return database.Collect(rows, err, func(r *sql.Rows) (o owned, err error) { return o, r.Scan(&o.teacher, &o.id, &o.head) })
}

// earlierDone is what is kept of a change of which only words were kept.
func earlierDone(says string) string {
	if says == "" {
		return "{}"
	}
	return `{"id":"earlier"}`
}

func carrySongs(ctx context.Context, tx *sql.Tx) error {
	songs, err := ownedRows(ctx, tx, "songs")
	if err != nil {
		return err
	}
	for _, o := range songs {
		rows, err := tx.QueryContext(ctx, "SELECT n, says, body FROM song_history WHERE song_id = ? ORDER BY n", o.id)
		revisions, err := database.Collect(rows, err, func(r *sql.Rows) (v oldRevision, err error) { return v, r.Scan(&v.n, &v.says, &v.body) })
		if err != nil {
			return err
		}
		var before, now song.Song
		next := 1
		for i, v := range revisions {
			sg, err := song.DecodeBare([]byte(v.body))
			if err != nil {
				return fmt.Errorf("song %d, revision %d: %w", o.id, v.n, err)
			}
			if sg.Next = next; i == 0 {
				sg = sg.Numbered()
			} else {
				sg = sg.Inherit(before)
			}
			next = max(next, sg.Next)
			body, err := sg.Encode()
			if err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx, "INSERT INTO song_revisions (teacher_id, document_id, n, done, body) VALUES (?, ?, ?, ?, ?)", o.teacher, o.id, v.n, earlierDone(v.says), body); err != nil {
				return err
			}
			before = sg
			if v.n == o.head {
				now = sg
			}
		}
		body, err := now.Encode()
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "UPDATE songs SET body = ?, next_id = ? WHERE id = ?", body, next, o.id); err != nil {
			return err
		}
		if err := carryDrills(ctx, tx, o.id, now); err != nil {
			return err
		}
	}
	return nil
}

// carryDrills names the bars of the song's drills; a bar that is not there any
// more has no id.
func carryDrills(ctx context.Context, tx *sql.Tx, id int64, sg song.Song) error {
	for i, b := range sg.Bars() {
		if _, err := tx.ExecContext(ctx, "UPDATE week_drills SET bar_id = ? WHERE song_id = ? AND bar = ?", b.ID, id, i+1); err != nil {
			return err
		}
	}
	return nil
}

func carryLadders(ctx context.Context, tx *sql.Tx) error {
	ladders, err := ownedRows(ctx, tx, "ladders")
	if err != nil {
		return err
	}
	for _, o := range ladders {
		if err := carryLadder(ctx, tx, o); err != nil {
			return fmt.Errorf("ladder %d: %w", o.id, err)
		}
	}
	return nil
}

func carryLadder(ctx context.Context, tx *sql.Tx, o owned) error {
	rows, err := tx.QueryContext(ctx, "SELECT n, says, steps, build_order FROM ladder_history WHERE ladder_id = ? ORDER BY n", o.id)
	old, err := database.Collect(rows, err, func(r *sql.Rows) (v oldRevision, err error) { return v, r.Scan(&v.n, &v.says, &v.body, &v.order) })
	if err != nil {
		return err
	}
	var revisions []ladder.Ladder
	now, next := 0, 1
	for i, v := range old {
		l, err := ladder.Decode([]byte(v.body))
		if err != nil {
			return fmt.Errorf("revision %d: %w", v.n, err)
		}
		if l.Choice, err = order.Parse(v.order, "", "", ""); err != nil {
			return err
		}
		if i > 0 {
			l.Steps, l.Next = ladder.Numbered(ladder.Inherit(revisions[i-1].Steps, l.Steps), next)
		}
		next = max(next, l.Next)
		revisions = append(revisions, l)
		body, err := l.Encode()
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO ladder_revisions (teacher_id, document_id, n, done, body) VALUES (?, ?, ?, ?, ?)", o.teacher, o.id, v.n, earlierDone(v.says), body); err != nil {
			return err
		}
		if v.n == o.head {
			now = i
		}
	}
	current := revisions[now]
	body, err := current.Encode()
	if err != nil {
		return err
	}
	sections, err := oldPart(ctx, tx, o.id)
	if err != nil {
		return err
	}
	instrument, err := oldInstrument(ctx, tx, o.id)
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, "UPDATE ladders SET body = ?, next_id = ?, sections = ?, step_count = ?, instrument = ? WHERE id = ?", body, next, sections, len(current.Steps), instrument, o.id); err != nil {
		return err
	}
	places, err := carryPlaces(ctx, tx, o.id, current)
	if err != nil {
		return err
	}
	for i, v := range old { // who stands somewhere stood on the same step before, as far as it was there
		for student, step := range places {
			at := ladder.Moved(current.Steps, revisions[i].Steps, step)
			if _, err := tx.ExecContext(ctx, "INSERT INTO revision_places (ladder_id, n, student_id, step_id) VALUES (?, ?, ?, ?)", o.id, v.n, student, at); err != nil {
				return err
			}
		}
	}
	return carryEntries(ctx, tx, o, revisions[:now+1], places)
}

// oldPart finds the sections that bore the name of a ladder's part.
func oldPart(ctx context.Context, tx *sql.Tx, id int64) (string, error) {
	var part, body string
	if err := tx.QueryRowContext(ctx, "SELECT l.part, g.body FROM ladders l JOIN songs g ON g.id = l.song_id WHERE l.id = ?", id).Scan(&part, &body); err != nil {
		return "", err
	}
	if part == "" {
		return "", nil
	}
	sg, err := song.Decode([]byte(body))
	if err != nil {
		return "", err
	}
	sections, err := json.Marshal(sg.Named(part))
	return string(sections), err
}

// oldInstrument is the one for which levels were measured before it was kept: the
// first on the list of those that the class plays.
func oldInstrument(ctx context.Context, tx *sql.Tx, id int64) (string, error) {
	rows, err := tx.QueryContext(ctx, "SELECT t.instrument FROM ladders l JOIN students t ON t.class_id = l.class_id WHERE l.id = ? ORDER BY t.id", id)
	played, err := database.Collect(rows, err, func(r *sql.Rows) (s string, err error) { return s, r.Scan(&s) })
	for _, ins := range fretboard.Instruments {
		if slices.Contains(played, ins.ID) {
			return ins.ID, err
		}
	}
	if len(played) > 0 {
		return played[0], err
	}
	return fretboard.Instruments[0].ID, err
}

func carryPlaces(ctx context.Context, tx *sql.Tx, id int64, l ladder.Ladder) (map[int64]ladder.StepID, error) {
	rows, err := tx.QueryContext(ctx, "SELECT student_id, step FROM placements WHERE ladder_id = ?", id)
	type place struct {
		student int64
		step    int
	}
	list, err := database.Collect(rows, err, func(r *sql.Rows) (p place, err error) { return p, r.Scan(&p.student, &p.step) })
	if err != nil {
		return nil, err
	}
	places := map[int64]ladder.StepID{}
	for _, p := range list {
		step := l.Steps[min(max(p.step, 0), len(l.Steps)-1)].ID
		places[p.student] = step
		if _, err := tx.ExecContext(ctx, "UPDATE placements SET step_id = ? WHERE ladder_id = ? AND student_id = ?", step, id, p.student); err != nil {
			return nil, err
		}
	}
	return places, nil
}

// carryEntries finds the step of each entry, of which only the place is known. A
// student was logged on the step on which the student stood, and moved along with
// it: so it is the step of now in the newest revision that had it at that place;
// else the step that had that place when the ladder was made.
func carryEntries(ctx context.Context, tx *sql.Tx, o owned, revisions []ladder.Ladder, places map[int64]ladder.StepID) error {
	rows, err := tx.QueryContext(ctx, "SELECT id, student_id, step FROM log_entries WHERE ladder_id = ? ORDER BY id", o.id)
	type entry struct {
		id, student int64
		step        int
	}
	list, err := database.Collect(rows, err, func(r *sql.Rows) (e entry, err error) { return e, r.Scan(&e.id, &e.student, &e.step) })
	if err != nil {
		return err
	}
	for _, e := range list {
		var found *ladder.Step
		for i := len(revisions) - 1; i >= 0 && found == nil; i-- {
			if steps := revisions[i].Steps; e.step < len(steps) && steps[e.step].ID == places[e.student] {
				found = &steps[e.step]
			}
		}
		for i := 0; i < len(revisions) && found == nil; i++ {
			if steps := revisions[i].Steps; e.step < len(steps) {
				found = &steps[e.step]
			}
		}
		if found == nil {
			steps := revisions[len(revisions)-1].Steps
			found = &steps[len(steps)-1]
		}
		played, err := carryPlayed(ctx, tx, o.teacher, o.id, *found)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "UPDATE log_entries SET step_id = ?, played_id = ? WHERE id = ?", found.ID, played, e.id); err != nil {
			return err
		}
	}
	return nil
}

// carryPlayed stores a step as it is, once, and returns its row: as log entries were kept when this
// migration was written, whatever is done to them since.
func carryPlayed(ctx context.Context, tx *sql.Tx, teacher, id int64, s ladder.Step) (int64, error) {
	s.Level, s.Pinned, s.Remark = 0, false, "" // none of it is a matter of what was played
	body, err := ladder.Ladder{Steps: []ladder.Step{s}}.Encode()
	if err != nil {
		return 0, err
	}
	sum := sha256.Sum256(body)
	res, err := tx.ExecContext(ctx, `INSERT INTO played_steps (teacher_id, ladder_id, step_id, digest, body) VALUES (?, ?, ?, ?, ?)
		ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)`, teacher, id, s.ID, hex.EncodeToString(sum[:]), body)
	if err != nil {
		return 0, err
	}
	return res.LastInsertId()
}
