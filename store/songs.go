package store

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"time"

	"arplin/core/say"
	"arplin/core/song"
	"arplin/store/database"
	"arplin/store/ref"
)

// Song is a stored song.
type Song struct {
	ID       ref.Song
	Version  int
	Archived bool
	Moves
	song.Song
}

// SongLine is a song in a list.
type SongLine struct {
	ID           ref.Song
	Title, Meter string
	Tags         string
	Tempo        int
}

// AddSong stores a new song as version 1.
func (s *Store) AddSong(ctx context.Context, teacher ref.Teacher, sg song.Song) (ref.Song, error) {
	var id int64
	err := s.db.InTx(ctx, func(tx *sql.Tx) (err error) {
		id, err = addSong(ctx, tx, teacher, sg, "")
		return err
	})
	if err != nil {
		return 0, fmt.Errorf("adding a song: %w", err)
	}
	return ref.Song(id), nil
}

func addSong(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, sg song.Song, uid ref.UID) (int64, error) {
	sg = sg.Numbered()
	body, err := sg.Encode()
	if err != nil {
		return 0, err
	}
	id, err := insert(ctx, tx, "INSERT INTO songs (teacher_id, title, tags, meter, tempo, body, version, next_id, created_at, uid) VALUES (?, ?, ?, ?, ?, ?, 1, ?, ?, ?)",
		teacher, sg.Title, strings.Join(sg.Tags, ", "), sg.Meter.String(), sg.Tempo, body, sg.Next, time.Now().UTC(), named(uid))
	if err != nil {
		return 0, err
	}
	return id, songDocument.begin(ctx, tx, teacher, id, body)
}

const songLineQuery = "SELECT id, title, tags, meter, tempo FROM songs WHERE teacher_id = ? AND archived = FALSE"

func scanSongLine(r *sql.Rows) (l SongLine, err error) {
	return l, r.Scan(&l.ID, &l.Title, &l.Tags, &l.Meter, &l.Tempo)
}

// Songs lists a page of a teacher's songs by title, the archived ones left out;
// more tells whether there is another page.
func (s *Store) Songs(ctx context.Context, teacher ref.Teacher, f Find) (list []SongLine, more bool, err error) {
	where, args := f.where("title", "tags")
	limit, bounds := f.limit()
	rows, err := s.db.QueryContext(ctx, songLineQuery+where+" ORDER BY title, id"+limit, append(append([]any{teacher}, args...), bounds...)...)
	list, err = database.Collect(rows, err, scanSongLine)
	list, more = paged(list)
	return list, more, err
}

// SongsIn lists all of a teacher's songs in a meter by title, the archived ones
// left out; an empty meter is any.
func (s *Store) SongsIn(ctx context.Context, teacher ref.Teacher, meter string) ([]SongLine, error) {
	rows, err := s.db.QueryContext(ctx, songLineQuery+" AND (meter = ? OR ? = '') ORDER BY title, id", teacher, meter, meter)
	return database.Collect(rows, err, scanSongLine)
}

func songColumns(table string) string {
	return fmt.Sprintf("%[1]s.id, %[1]s.version, %[1]s.archived, %[1]s.next_id, %[1]s.body, ", table) + songDocument.movesSQL(table)
}

var songQuery = "SELECT " + songColumns("x") + " FROM songs x WHERE x.teacher_id = ?"

// songRow is a song as its columns are read.
type songRow struct {
	Song
	body []byte
	next int
}

func (r *songRow) to() []any {
	return []any{&r.ID, &r.Version, &r.Archived, &r.next, &r.body, &r.Undo, &r.Redo}
}

func (r *songRow) read() (sg Song, err error) {
	sg = r.Song
	if sg.Song, err = song.Decode(r.body); err != nil {
		return sg, fmt.Errorf("song %d: %w", sg.ID, err)
	}
	sg.Next = max(sg.Next, r.next) // ids that were undone are not given again
	return sg, nil
}

func scanSong(scan func(...any) error) (Song, error) {
	var r songRow
	if err := scan(r.to()...); err != nil {
		return Song{}, err
	}
	return r.read()
}

// Song finds one of the teacher's songs, archived or not.
func (s *Store) Song(ctx context.Context, teacher ref.Teacher, id ref.Song) (Song, error) {
	sg, err := scanSong(s.db.QueryRowContext(ctx, songQuery+" AND x.id = ?", teacher, id).Scan)
	return sg, notFound(err, "song")
}

// SongsOf finds several of the teacher's songs at once, archived or not.
func (s *Store) SongsOf(ctx context.Context, teacher ref.Teacher, ids []ref.Song) (map[ref.Song]Song, error) {
	rows, err := queryIn(ctx, s.db, songQuery+" AND x.id IN ", teacher, ids)
	list, err := database.Collect(rows, err, func(r *sql.Rows) (Song, error) { return scanSong(r.Scan) })
	by := map[ref.Song]Song{}
	for _, sg := range list {
		by[sg.ID] = sg
	}
	return by, err
}

// SaveSong stores an edit of the song's version, with what was done. Anything
// that had been undone is gone then. A version that is not the newest is a
// StaleError.
func (s *Store) SaveSong(ctx context.Context, teacher ref.Teacher, edited Song, d say.Line) error {
	body, err := edited.Encode()
	if err != nil {
		return fmt.Errorf("saving a song: %w", err)
	}
	return s.db.InTx(ctx, func(tx *sql.Tx) error {
		h, err := songDocument.hold(ctx, tx, teacher, int64(edited.ID), edited.Version)
		if err != nil {
			return err
		}
		n, err := h.append(ctx, tx, d, body)
		if err != nil {
			return err
		}
		return showSong(ctx, tx, edited.ID, n, edited.Song, body)
	})
}

// showSong makes a revision the song's newest version.
func showSong(ctx context.Context, tx *sql.Tx, id ref.Song, head int, sg song.Song, body []byte) error {
	_, err := tx.ExecContext(ctx, "UPDATE songs SET version = version + 1, head = ?, title = ?, tags = ?, meter = ?, tempo = ?, body = ?, next_id = GREATEST(next_id, ?) WHERE id = ?",
		head, sg.Title, strings.Join(sg.Tags, ", "), sg.Meter.String(), sg.Tempo, body, sg.Next, id)
	return err
}

// MoveSong goes one step back (-1) or forward (+1) in the history of a song's
// version and returns what was undone or done again.
func (s *Store) MoveSong(ctx context.Context, teacher ref.Teacher, id ref.Song, version, by int) (d say.Line, err error) {
	err = s.db.InTx(ctx, func(tx *sql.Tx) error {
		h, err := songDocument.hold(ctx, tx, teacher, int64(id), version)
		if err != nil {
			return err
		}
		var body []byte
		if body, d, err = h.step(ctx, tx, by); err != nil {
			return err
		}
		sg, err := song.Decode(body)
		if err != nil {
			return err
		}
		return showSong(ctx, tx, id, h.head+by, sg, body)
	})
	return d, err
}
