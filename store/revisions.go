package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"arplin/core/say"
	"arplin/store/ref"
)

// Everything that is edited has its history in one way: a row with the newest
// body, a version that counts every save, so that a stale edit is noticed, and a
// place in the history that is shown, which undo moves back and redo forward.

// document is a table whose rows have a history.
type document struct {
	what             string // in sentences
	table, revisions string
}

var (
	songDocument   = document{"song", "songs", "song_revisions"}
	ladderDocument = document{"ladder", "ladders", "ladder_revisions"}
)

// keptRevisions is how many steps back undo can go.
const keptRevisions = 200

// ErrNoHistory: there is nothing to undo or redo.
var ErrNoHistory = errors.New("there is nothing to go to")

// StaleError refuses an edit of a version that is no longer the newest.
type StaleError struct {
	what    string
	Version int // that is there now
}

func (e *StaleError) Error() string {
	return fmt.Sprintf("the %s is at version %d by now", e.what, e.Version)
}

// held is a document's row while a transaction holds it.
type held struct {
	document
	teacher ref.Teacher
	id      int64
	head    int
	body    []byte
}

// hold locks the row; the version must be the newest.
func (d document) hold(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id int64, version int) (held, error) {
	h := held{document: d, teacher: teacher, id: id}
	var current int
	err := tx.QueryRowContext(ctx, "SELECT version, head, body FROM "+d.table+" WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, id).Scan(&current, &h.head, &h.body)
	if err != nil {
		return h, notFound(err, d.what)
	}
	if current != version {
		return h, &StaleError{d.what, current}
	}
	return h, nil
}

// append writes a new revision after the one that is shown; anything that had
// been undone is gone then, and so is what is too long ago.
func (h held) append(ctx context.Context, tx *sql.Tx, d say.Line, body []byte) (n int, err error) {
	text, err := encodeDone(d)
	if err != nil {
		return 0, err
	}
	n = h.head + 1
	if _, err := tx.ExecContext(ctx, "DELETE FROM "+h.revisions+" WHERE document_id = ? AND (n > ? OR n < ?)", h.id, h.head, n-keptRevisions); err != nil {
		return 0, err
	}
	_, err = tx.ExecContext(ctx, "INSERT INTO "+h.revisions+" (teacher_id, document_id, n, done, body) VALUES (?, ?, ?, ?, ?)", h.teacher, h.id, n, text, body)
	return n, err
}

// begin writes the first revision of a new document.
func (d document) begin(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, id int64, body []byte) error {
	_, err := tx.ExecContext(ctx, "INSERT INTO "+d.revisions+" (teacher_id, document_id, n, done, body) VALUES (?, ?, 1, '{}', ?)", teacher, id, body)
	return err
}

// step finds the revision one back (-1) or forward (+1), and what is taken back
// or done again by going there.
func (h held) step(ctx context.Context, tx *sql.Tx, by int) (body []byte, d say.Line, err error) {
	err = tx.QueryRowContext(ctx, "SELECT body FROM "+h.revisions+" WHERE document_id = ? AND n = ?", h.id, h.head+by).Scan(&body)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, d, ErrNoHistory
	}
	if err != nil {
		return nil, d, err
	}
	var text string
	if err := tx.QueryRowContext(ctx, "SELECT done FROM "+h.revisions+" WHERE document_id = ? AND n = ?", h.id, max(h.head, h.head+by)).Scan(&text); err != nil {
		return nil, d, err
	}
	d, err = decodeDone(text)
	return body, d, err
}

// Moves tells where undo and redo can go.
type Moves struct{ Undo, Redo bool }

// movesSQL is a pair of columns for a query on a document's table, alias x.
func (d document) movesSQL(table string) string {
	return fmt.Sprintf(`EXISTS (SELECT 1 FROM %[1]s r WHERE r.document_id = %[2]s.id AND r.n = %[2]s.head - 1), EXISTS (SELECT 1 FROM %[1]s r WHERE r.document_id = %[2]s.id AND r.n = %[2]s.head + 1)`, d.revisions, table)
}

// LastDoneToSong is what made the song what it is now.
func (s *Store) LastDoneToSong(ctx context.Context, teacher ref.Teacher, id ref.Song) (say.Line, error) {
	return s.lastDone(ctx, songDocument, teacher, int64(id))
}

// LastDoneToLadder is what made the ladder what it is now.
func (s *Store) LastDoneToLadder(ctx context.Context, teacher ref.Teacher, id ref.Ladder) (say.Line, error) {
	return s.lastDone(ctx, ladderDocument, teacher, int64(id))
}

func (s *Store) lastDone(ctx context.Context, d document, teacher ref.Teacher, id int64) (say.Line, error) {
	var text string
	err := s.db.QueryRowContext(ctx, "SELECT r.done FROM "+d.table+" x JOIN "+d.revisions+" r ON r.document_id = x.id AND r.n = x.head WHERE x.teacher_id = ? AND x.id = ?", teacher, id).Scan(&text)
	if err != nil {
		return say.Line{}, notFound(err, d.what)
	}
	return decodeDone(text)
}

func encodeDone(d say.Line) (string, error) {
	text, err := json.Marshal(d)
	return string(text), err
}

func decodeDone(text string) (d say.Line, err error) { return d, json.Unmarshal([]byte(text), &d) }
