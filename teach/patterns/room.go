package patterns

import (
	"context"
	"time"

	"arplin/core/ladder/fit"
	"arplin/core/song"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Room is the use cases of this room. Safe for concurrent use.
type Room struct {
	*answer.From
	// Learners is what is known of a class: who has played what clean, and the figures of its
	// ladders. Those who know it stand further up.
	Learners func(context.Context, ref.Teacher, people.Class, song.Song, time.Time) (fit.Learners, error)
}
