package store

import (
	"context"
	"database/sql"
	"encoding/json"

	"arplin/store/database"
	"arplin/store/ref"
)

// OnDesk is a ladder on a class's desk with its song and where everyone is; the archived are
// not there.
type OnDesk struct {
	Ladder Ladder
	Song   Song
	Places Places
}

var laddersNowQuery = "SELECT " + ladderColumns + ", " + songColumns("g") + `,
	(SELECT JSON_OBJECTAGG(p.student_id, p.step_id) FROM placements p JOIN students t ON t.id = p.student_id WHERE p.teacher_id = x.teacher_id AND p.ladder_id = x.id AND t.archived = FALSE)` +
	ofLadders + ` AND x.class_id = ? AND x.progress = ? AND x.archived = FALSE ORDER BY ` + peopleFirst + ` LIMIT ?`

// peopleFirst orders the ladders of a desk: one on which nobody stands yet does not take the place of one
// that is in use; then the newest.
const peopleFirst = `EXISTS (SELECT 1 FROM placements o JOIN students w ON w.id = o.student_id
	WHERE o.teacher_id = x.teacher_id AND o.ladder_id = x.id AND w.archived = FALSE AND w.left_on IS NULL) DESC, x.created_at DESC, x.id DESC`

// LaddersNow are the ladders on a class's desk, those in use first, then the newest: what a lesson is planned from.
func (s *Store) LaddersNow(ctx context.Context, teacher ref.Teacher, class ref.Class) ([]OnDesk, error) {
	rows, err := s.db.QueryContext(ctx, laddersNowQuery, teacher, class, Now, MostNow)
	return database.Collect(rows, err, func(r *sql.Rows) (on OnDesk, err error) {
		var l ladderRow
		var sg songRow
		var places sql.NullString
		if err := r.Scan(append(append(l.to(), sg.to()...), &places)...); err != nil {
			return on, err
		}
		if on.Ladder, err = l.read(); err != nil {
			return on, err
		}
		if on.Song, err = sg.read(); err != nil {
			return on, err
		}
		if places.Valid {
			err = json.Unmarshal([]byte(places.String), &on.Places)
		}
		return on, err
	})
}
