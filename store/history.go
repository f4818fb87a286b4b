package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"arplin/core/song"
)

// StaleError refuses an edit of a version that is no longer the newest.
type StaleError struct {
	Current Song // what is there now
}

func (e *StaleError) Error() string {
	return fmt.Sprintf("the song is at version %d by now", e.Current.Version)
}

// keptHistory is how many steps back undo can go.
const keptHistory = 200

// SaveSong stores an edit of the given version, with the words that say what it
// was. Anything that had been undone is gone then. A version that is not the
// newest is a StaleError.
func (s *Store) SaveSong(ctx context.Context, teacher int64, edited Song, says string) error {
	body, err := edited.Encode()
	if err != nil {
		return fmt.Errorf("saving a song: %w", err)
	}
	return s.inTx(ctx, func(tx *sql.Tx) error {
		head, err := lockSong(ctx, tx, teacher, edited.ID, edited.Version)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM song_history WHERE song_id = ? AND (n > ? OR n <= ?)", edited.ID, head, head-keptHistory); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO song_history (song_id, n, says, body) VALUES (?, ?, ?, ?)", edited.ID, head+1, says, body); err != nil {
			return err
		}
		return showSong(ctx, tx, edited.ID, head+1, edited.Song, body)
	})
}

// lockSong holds the song's row and returns its place in the history.
func lockSong(ctx context.Context, tx *sql.Tx, teacher, id int64, version int) (head int, err error) {
	current := Song{ID: id}
	var body []byte
	err = tx.QueryRowContext(ctx, "SELECT version, head, body FROM songs WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, id).Scan(&current.Version, &head, &body)
	if err != nil {
		return 0, notFound(err, "song")
	}
	if current.Version == version {
		return head, nil
	}
	if current.Song, err = song.Decode(body); err != nil {
		return 0, err
	}
	return 0, &StaleError{current}
}

// showSong makes a place in the history the song's newest version.
func showSong(ctx context.Context, tx *sql.Tx, id int64, head int, sg song.Song, body []byte) error {
	_, err := tx.ExecContext(ctx, "UPDATE songs SET version = version + 1, head = ?, title = ?, meter = ?, tempo = ?, body = ? WHERE id = ?",
		head, sg.Title, sg.Meter.String(), sg.Tempo, body, id)
	return err
}

// ErrNoHistory: there is nothing to undo or redo.
var ErrNoHistory = errors.New("there is nothing to go to")

// MoveSong goes one step back (-1) or forward (+1) in the history and returns
// what was undone or done again.
func (s *Store) MoveSong(ctx context.Context, teacher, id int64, version, step int) (says string, err error) {
	err = s.inTx(ctx, func(tx *sql.Tx) error {
		head, err := lockSong(ctx, tx, teacher, id, version)
		if err != nil {
			return err
		}
		var body []byte
		err = tx.QueryRowContext(ctx, "SELECT body FROM song_history WHERE song_id = ? AND n = ?", id, head+step).Scan(&body)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNoHistory
		}
		if err != nil {
			return err
		}
		done := max(head, head+step) // the entry that is taken back or brought again
		if err := tx.QueryRowContext(ctx, "SELECT says FROM song_history WHERE song_id = ? AND n = ?", id, done).Scan(&says); err != nil {
			return err
		}
		sg, err := song.Decode(body)
		if err != nil {
			return err
		}
		return showSong(ctx, tx, id, head+step, sg, body)
	})
	return says, err
}

// CanMove reports whether undo and redo have somewhere to go.
func (s *Store) CanMove(ctx context.Context, teacher, id int64) (undo, redo bool, err error) {
	var below, above int
	err = s.db.QueryRowContext(ctx, `SELECT COUNT(CASE WHEN h.n < g.head THEN 1 END), COUNT(CASE WHEN h.n > g.head THEN 1 END)
		FROM songs g JOIN song_history h ON h.song_id = g.id WHERE g.teacher_id = ? AND g.id = ?`, teacher, id).Scan(&below, &above)
	return below > 0, above > 0, err
}
