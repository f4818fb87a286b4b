package ladders

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// HistoryWeeks is how far back clean tempos are looked for.
const HistoryWeeks = 12

func Since(now time.Time) time.Time { return now.AddDate(0, 0, -7*HistoryWeeks) }

// Ladder is a ladder with its song, its own class, and where everyone is.
type Ladder struct {
	store.Ladder
	Song       store.Song
	Class      people.Class
	Places     store.Places
	Instrument fretboard.Instrument // for which the levels are measured

	Task     difficulty.Task
	stations []stationed // of a tune's ladder, a step each
	Loaded   answer.Rows // what it was loaded from
}

// Load reads a ladder. The class is the ladder's own; at is the one that
// the teacher works with, which mostly is the same.
func (t *Room) Load(ctx context.Context, teacher ref.Teacher, at people.Class, id ref.Ladder) (Ladder, error) {
	l, err := t.Store.Ladder(ctx, teacher, id)
	if err != nil {
		return Ladder{}, err
	}
	return t.withSong(ctx, teacher, at, l)
}

func (t *Room) withSong(ctx context.Context, teacher ref.Teacher, at people.Class, l store.Ladder) (Ladder, error) {
	on := Ladder{Ladder: l}
	var err error
	if on.Class, err = t.People.ClassOf(ctx, teacher, l.ClassID, at); err != nil {
		return on, err
	}
	if on.Song, err = t.Store.Song(ctx, teacher, l.SongID); err != nil {
		return on, err
	}
	if on.Places, err = t.Store.Placements(ctx, teacher, l.ID); err != nil {
		return on, err
	}
	if failing := t.Computes(on.ID, on.SongTitle, func() { t.Measure(&on) }); failing != nil {
		return on, failing
	}
	return on, nil
}

// Measure fills in what is computed of a ladder, its song and its class.
func (t *Room) Measure(on *Ladder) {
	if on.OfTune() {
		on.Song.Song = on.Song.WithTune(on.Tune)
	}
	on.Class = on.Class.On(on.Song.Song)
	on.Instrument = on.Class.Instrument(on.Ladder.Instrument)
	on.Loaded = answer.RowsOf(on.ID, on.Version, on.Moves, on.Concert, on.Archived, on.Progress, on.Song.Version, on.Class.Class, on.Class.Students, on.Places)
	measured := answer.Keep(t.From, "ladder", on.Loaded, func() measuredLadder {
		task := LadderTask(on.Target, PartsOf(on.Steps), on.Begin, on.Song.Song, on.Sections, on.Instrument, on.Class)
		return measuredLadder{task, ladder.Measured(on.Steps, task, on.Class.Weigh())}
	})
	on.Task, on.Steps = measured.task, measured.steps
	if on.OfTune() {
		on.Steps = slices.Clone(on.Steps)
		on.stations = t.stations(*on, on.Steps)
	}
}

// LaddersNow are the ladders on a class's desk with their songs and places, the newest
// first, read at once. They are not measured yet.
func (t *Room) LaddersNow(ctx context.Context, teacher ref.Teacher, c people.Class) (list []Ladder, err error) {
	stored, err := t.Store.LaddersNow(ctx, teacher, c.ID)
	if err != nil {
		return nil, err
	}
	for _, on := range stored {
		list = append(list, Ladder{Ladder: on.Ladder, Class: c, Song: on.Song, Places: on.Places})
	}
	return list, nil
}

type measuredLadder struct {
	task  difficulty.Task
	steps []ladder.Step
}

// LadderTask is a target on its part of the song, for the instrument by which the
// levels are measured; others are the figures of parts that have one of their own.
func LadderTask(target pattern.Pattern, others []difficulty.Figure, begin ladder.Beginning, sg song.Song, sections []song.SectionID, ins fretboard.Instrument, c people.Class) difficulty.Task {
	part := sg.Part(sections)
	return ladder.Begin(difficulty.NewTask(target, part, ins, c.School(), sg.Tempo).Split(part, others), begin)
}

// PartsOf are the figures of other parts in the target.
func PartsOf(steps []ladder.Step) []difficulty.Figure {
	if len(steps) == 0 {
		return nil
	}
	return steps[len(steps)-1].Parts
}

// Begins are the chords in the order in which the ladder brings them, as its
// instrument fingers them.
func (l Ladder) Begins() []string { return l.Task.Order }

// Several reports a song with a figure for each of several parts.
func (l Ladder) Several() bool { return len(PartsOf(l.Steps)) > 0 }

// Part is the names of the sections that a ladder is for; empty for the whole song.
func (l Ladder) Part() string { return partName(l.Song.Song, l.Sections) }

func partName(sg song.Song, ids []song.SectionID) string {
	var names []string
	for _, sec := range sg.Sections {
		if slices.Contains(ids, sec.ID) && !slices.Contains(names, sec.Name) {
			names = append(names, sec.Name)
		}
	}
	return strings.Join(names, ", ")
}

// Apart says how the song has moved away from a ladder that was made for it;
// empty while they fit.
func (l Ladder) Apart() string {
	if says := l.withoutTune(); says != "" {
		return says
	}
	switch {
	case l.Target.Meter != l.Song.Meter:
		return fmt.Sprintf("The song is in %s now, and this ladder in %s. Change the song back, or create a ladder from a pattern in %s.", l.Song.Meter, l.Target.Meter, l.Song.Meter)
	case len(l.Sections) > 0 && l.Part() == "":
		return "This ladder’s section isn’t in the song any more, so the ladder covers the whole song."
	}
	return ""
}

// Rows is what the page of a ladder was loaded from.
func (l Ladder) Rows(more ...any) answer.Rows {
	return answer.RowsOf(append([]any{l.Loaded}, more...)...)
}
