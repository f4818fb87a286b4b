package web

import (
	"errors"
	"fmt"
	"slices"

	"github.com/gofiber/fiber/v3"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/vary"
	"arplin/store"
)

// onSong is a song of the address with the class that looks at it.
type onSong struct {
	store.Song
	cur      current
	hasClass bool
}

// loadSong finds the song of the address. A teacher without a class sees it,
// too.
func (s *server) loadSong(c fiber.Ctx) (onSong, error) {
	id, err := pathID(c)
	if err != nil {
		return onSong{}, err
	}
	sg, err := s.Store.Song(c.Context(), teacherID(c), id)
	if err != nil {
		return onSong{}, err
	}
	cur, hasClass, err := s.maybeClass(c)
	return onSong{sg, cur, hasClass}, err
}

// maybeClass is currentClass for pages that do without one.
func (s *server) maybeClass(c fiber.Ctx) (cur current, has bool, err error) {
	cur, err = s.currentClass(c)
	if errors.Is(err, errNoClass) {
		return cur, false, nil
	}
	return cur, err == nil, err
}

// onLadder is a ladder of the address with its song and its own class, which
// need not be the session's.
type onLadder struct {
	store.Ladder
	song store.Song
	cur  current
}

// task is the ladder's target on its part of the song, for the class's first
// instrument, by which the levels are measured.
func (on onLadder) task() demand.Task {
	return ladderTask(on.Target, on.song.Song, on.Part, on.cur)
}

// apart says how a song has moved away from a ladder that was made for it; empty
// while they fit.
func apart(l store.Ladder, sg song.Song) string {
	switch {
	case l.Target.Meter != sg.Meter:
		return fmt.Sprintf("The song is in %s now, and this ladder in %s. Put the song back, or make a ladder of a figure in %s.", sg.Meter, l.Target.Meter, sg.Meter)
	case l.Part != "" && !slices.ContainsFunc(sg.Sections, func(sec song.Section) bool { return sec.Name == l.Part }):
		return fmt.Sprintf("The song has no part called %s any more; the ladder goes over the whole of it.", l.Part)
	}
	return ""
}

func ladderTask(target hand.Pattern, sg song.Song, part string, cur current) demand.Task {
	return demand.NewTask(target, sg.Part(part), cur.instruments()[0], cur.school(), sg.Tempo)
}

func (s *server) loadLadder(c fiber.Ctx) (onLadder, error) {
	id, err := pathID(c)
	if err != nil {
		return onLadder{}, err
	}
	l, err := s.Store.Ladder(c.Context(), teacherID(c), id)
	if err != nil {
		return onLadder{}, err
	}
	class, err := s.Store.Class(c.Context(), teacherID(c), l.ClassID)
	if err != nil {
		return onLadder{}, err
	}
	students, err := s.Store.Students(c.Context(), teacherID(c), l.ClassID)
	if err != nil {
		return onLadder{}, err
	}
	return s.withSong(c, l, current{class, students})
}

// ladderOf is a ladder of a class that is at hand.
func (s *server) ladderOf(c fiber.Ctx, id int64, cur current) (onLadder, error) {
	l, err := s.Store.Ladder(c.Context(), teacherID(c), id)
	if err != nil {
		return onLadder{}, err
	}
	return s.withSong(c, l, cur)
}

// withSong adds the song and the levels that the steps have on it now.
func (s *server) withSong(c fiber.Ctx, l store.Ladder, cur current) (onLadder, error) {
	sg, err := s.Store.Song(c.Context(), teacherID(c), l.SongID)
	if err != nil {
		return onLadder{}, err
	}
	on := onLadder{l, sg, cur}
	on.Steps = vary.Measured(l.Steps, on.task(), on.cur.weights())
	return on, nil
}
