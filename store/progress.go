package store

import (
	"context"
	"database/sql"
	"fmt"
	"slices"

	"arplin/store/database"
	"arplin/store/ref"
)

// Progress is where a class is with a ladder.
type Progress string

// A ladder is on the desk, set aside for another time, or finished.
const (
	Now      Progress = "now"
	Aside    Progress = "aside"
	Finished Progress = "finished"
)

// ParseProgress reads it.
func ParseProgress(s string) (Progress, bool) {
	p := Progress(s)
	return p, slices.Contains([]Progress{Now, Aside, Finished}, p)
}

// MostNow is how many ladders a desk holds: what a lesson has room for, and one.
const MostNow = 4

// OnNow are the ladders that are on a class's desk, the newest first.
func (s *Store) OnNow(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]LadderLine, error) {
	rows, err := s.db.QueryContext(ctx, ladderLines+` AND x.class_id = ? AND x.progress = ? AND x.archived = FALSE ORDER BY `+peopleFirst+` LIMIT ?`,
		teacher, class, Now, MostNow)
	return database.Collect(rows, err, scanLadderLine)
}

// SetProgress puts a ladder on the desk, or takes it off. A full desk is ErrFull.
func (s *Store) SetProgress(ctx context.Context, teacher ref.Teacher, id ref.Ladder, to Progress) error {
	err := s.db.InTx(ctx, func(tx *sql.Tx) error {
		var class ref.Class
		if err := tx.QueryRowContext(ctx, "SELECT class_id FROM ladders WHERE teacher_id = ? AND id = ?", teacher, id).Scan(&class); err != nil {
			return notFound(err, "ladder")
		}
		// The class's row is the lock: two tabs cannot both take the last place.
		if err := tx.QueryRowContext(ctx, "SELECT id FROM classes WHERE teacher_id = ? AND id = ? FOR UPDATE", teacher, class).Scan(&class); err != nil {
			return notFound(err, "class")
		}
		if to == Now {
			var others int
			if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM ladders WHERE teacher_id = ? AND class_id = ? AND progress = ? AND archived = FALSE AND id <> ?", teacher, class, Now, id).Scan(&others); err != nil {
				return err
			}
			if others >= MostNow {
				return ErrFull
			}
		}
		_, err := tx.ExecContext(ctx, "UPDATE ladders SET progress = ? WHERE teacher_id = ? AND id = ?", to, teacher, id)
		return err
	})
	if err != nil {
		return fmt.Errorf("progress of a ladder: %w", err)
	}
	return nil
}

// makeRoom sets aside what a new ladder replaces on the desk: one for the same part of the same
// song on which nobody stands, and what would be too many for the desk, those with people on them last.
func makeRoom(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, l Ladder, sections string) error {
	if _, err := tx.ExecContext(ctx, `UPDATE ladders x SET x.progress = ? WHERE x.teacher_id = ? AND x.class_id = ? AND x.progress = ? AND x.song_id = ? AND x.sections = ?
		AND NOT EXISTS (SELECT 1 FROM placements o WHERE o.teacher_id = x.teacher_id AND o.ladder_id = x.id)`,
		Aside, teacher, l.ClassID, Now, l.SongID, sections); err != nil {
		return err
	}
	_, err := tx.ExecContext(ctx, `UPDATE ladders SET progress = ? WHERE teacher_id = ? AND class_id = ? AND progress = ? AND archived = FALSE AND id NOT IN (SELECT id FROM
		(SELECT x.id FROM ladders x WHERE x.teacher_id = ? AND x.class_id = ? AND x.progress = ? AND x.archived = FALSE ORDER BY `+peopleFirst+` LIMIT ?) kept)`,
		Aside, teacher, l.ClassID, Now, teacher, l.ClassID, Now, MostNow-1)
	return err
}

// longestLadderName is what the column holds, in letters.
const longestLadderName = 120

// nameApart gives a ladder of a song a name that no other of the class's has: "Two between (2)".
func nameApart(ctx context.Context, tx *sql.Tx, teacher ref.Teacher, l Ladder) (string, error) {
	name := l.PatternName
	for n := 2; ; n++ {
		var taken int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM ladders WHERE teacher_id = ? AND class_id = ? AND song_id = ? AND pattern_name = ? AND archived = FALSE", teacher, l.ClassID, l.SongID, name).Scan(&taken); err != nil {
			return "", err
		}
		if taken == 0 {
			return name, nil
		}
		apart := fmt.Sprintf(" (%d)", n)
		first := []rune(l.PatternName)
		name = string(first[:min(len(first), longestLadderName-len(apart))]) + apart
	}
}

// RenameLadder gives a ladder another name.
func (s *Store) RenameLadder(ctx context.Context, teacher ref.Teacher, id ref.Ladder, name string) error {
	if _, err := s.Ladder(ctx, teacher, id); err != nil {
		return err
	}
	_, err := s.db.Change(ctx, "UPDATE ladders SET pattern_name = ? WHERE teacher_id = ? AND id = ?", name, teacher, id)
	return err
}
