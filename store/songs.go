package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"arplin/core/song"
)

// Song is a stored song.
type Song struct {
	ID      int64
	Version int
	song.Song
}

// SongLine is a song in a list.
type SongLine struct {
	ID           int64
	Title, Meter string
	Tempo        int
}

// AddSong stores a new song as version 1.
func (s *Store) AddSong(ctx context.Context, teacher int64, sg song.Song) (int64, error) {
	body, err := sg.Encode()
	if err != nil {
		return 0, fmt.Errorf("adding a song: %w", err)
	}
	var id int64
	err = s.inTx(ctx, func(tx *sql.Tx) (err error) {
		id, err = insert(ctx, tx, "INSERT INTO songs (teacher_id, title, meter, tempo, body, version, created_at) VALUES (?, ?, ?, ?, ?, 1, ?)",
			teacher, sg.Title, sg.Meter.String(), sg.Tempo, body, time.Now().UTC())
		if err == nil {
			_, err = tx.ExecContext(ctx, "INSERT INTO song_history (song_id, n, says, body) VALUES (?, 1, '', ?)", id, body)
		}
		return err
	})
	if err != nil {
		return 0, fmt.Errorf("adding a song: %w", err)
	}
	return id, nil
}

// Songs lists a teacher's songs by title, the archived ones left out.
func (s *Store) Songs(ctx context.Context, teacher int64) ([]SongLine, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id, title, meter, tempo FROM songs WHERE teacher_id = ? AND NOT archived ORDER BY title, id", teacher)
	return collect(rows, err, func(r *sql.Rows) (l SongLine, err error) {
		return l, r.Scan(&l.ID, &l.Title, &l.Meter, &l.Tempo)
	})
}

// Song finds one of the teacher's songs, archived or not.
func (s *Store) Song(ctx context.Context, teacher, id int64) (Song, error) {
	sg := Song{ID: id}
	var body []byte
	err := s.db.QueryRowContext(ctx, "SELECT version, body FROM songs WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&sg.Version, &body)
	if err != nil {
		return Song{}, notFound(err, "song")
	}
	sg.Song, err = song.Decode(body)
	return sg, err
}

// ArchiveSong takes a song off the list or puts it back.
func (s *Store) ArchiveSong(ctx context.Context, teacher, id int64, archived bool) error {
	return s.archive(ctx, "songs", teacher, id, archived)
}

// archive hides or shows a row of one of the store's own tables.
func (s *Store) archive(ctx context.Context, table string, teacher, id int64, archived bool) error {
	var found int64
	if err := s.db.QueryRowContext(ctx, "SELECT id FROM "+table+" WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&found); err != nil {
		return notFound(err, table)
	}
	_, err := s.db.ExecContext(ctx, "UPDATE "+table+" SET archived = ? WHERE teacher_id = ? AND id = ?", archived, teacher, id)
	return err
}
