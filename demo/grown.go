package demo

import (
	"context"
	"fmt"
	"time"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach"
	"arplin/teach/ladders"
)

// Sizes of a grown school: a busy teacher after three years.
const (
	GrownSongs   = 300
	GrownLadders = 100
	grownWeeks   = 3 * 52
)

// Grow adds to a teacher's first class what three years leave behind: songs,
// ladders, and a clean tempo of every student each week, spread over the ladders
// as they came, with everybody on the newest.
func Grow(ctx context.Context, s *store.Store, teacher ref.Teacher, now time.Time) error {
	l := loader{Teach: teach.New(s), teacher: teacher}
	class, err := l.People.Class(ctx, teacher, 0)
	if err != nil {
		return err
	}
	school, err := Read()
	if err != nil {
		return err
	}
	var songs []ref.Song
	for i := range GrownSongs {
		id, err := l.addSong(ctx, school.Songs[i%len(school.Songs)])
		if err != nil {
			return err
		}
		songs = append(songs, id)
	}
	var all []store.Ladder
	for i := range GrownLadders {
		song := songs[(i*len(school.Songs))%len(songs)] // all alike: their ladders are
		id, err := l.Ladders.Make(ctx, teacher, class, ladders.NewLadder{Song: song, Pattern: school.Ladder.Pattern})
		if err != nil {
			return err
		}
		on, err := s.Ladder(ctx, teacher, id)
		if err != nil {
			return err
		}
		all = append(all, on)
	}
	newest, places := all[len(all)-1], store.Places{}
	for i, st := range class.Students {
		places[st.ID] = newest.Steps[i%len(newest.Steps)].ID
	}
	if _, _, err := s.Place(ctx, teacher, newest.ID, places); err != nil {
		return err
	}
	for week := range grownWeeks {
		on := all[week*len(all)/grownWeeks]
		for _, st := range class.Students {
			step := on.Steps[week%len(on.Steps)]
			e := store.Entry{StudentID: st.ID, LadderID: on.ID, Step: step, Tempo: 50 + week%40, At: now.Add(-time.Duration(grownWeeks-week) * 7 * 24 * time.Hour)}
			if _, err := s.AddEntry(ctx, teacher, e, fmt.Sprintf("grown-%d-%d", st.ID, week)); err != nil {
				return err
			}
		}
	}
	return nil
}
