package lesson

import (
	"context"
	"fmt"
	"slices"
	"time"

	"arplin/core/arrange"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/station"
	"arplin/core/plan"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// growFrom is what an arrangement is proposed from.
type growFrom struct {
	clean  map[ref.Student]int // the step, from 0, that each plays clean by then; -1 for none
	by     string              // the day of the concert; empty for where they stand today
	others []ladders.Ladder    // on the class's desk
	parts  growParts
}

// growParts is what can be played on a song that is no step.
type growParts struct {
	alone, over      arrange.Played // the tune by itself, and over a walking bass
	carried, walking arrange.Tune   // how hard they are
	levels           map[arrange.PartKind]float64
}

// partsOn measures them.
func partsOn(l ladders.Ladder) growParts {
	v, k := l.TuneOn(l.Instrument)
	part := l.Song.Part(l.Sections)
	g := growParts{levels: map[arrange.PartKind]float64{}}
	for _, kind := range []arrange.PartKind{arrange.Strum, arrange.BassStrum} {
		if f, ok := kind.Figure(part.Meter); ok {
			g.levels[kind] = difficulty.LevelOf(difficulty.NewTask(f, part, v.Ins, v.School, part.Tempo), l.Class.Weigh())
		}
	}
	if !part.HasMelody() {
		return g
	}
	measure := func(p arrange.Played) arrange.Tune {
		figure := p.Figure(part.Meter)
		return arrange.Tune{Level: p.Reading(k, v.Song, v.School, l.Class.Weigh()).Level, Strokes: float64(figure.Count()) / float64(len(figure.Bars))}
	}
	g.alone, g.over = k.Station(station.TuneAlone).Play(k), k.Station(station.WalkingBass).Play(k)
	g.carried, g.walking = measure(g.alone), measure(g.over)
	return g
}

// growFrom finds the step that each of the class is as good as sure to play clean by the day of
// the concert; without a concert ahead, or for a ladder that is not on the desk, where they
// stand.
func (t *Room) growFrom(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, now time.Time) (growFrom, error) {
	from := growFrom{clean: map[ref.Student]int{}}
	for _, st := range l.Class.Students {
		from.clean[st.ID] = ladder.Find(l.Steps, l.Places[st.ID])
	}
	term, err := t.Store.TermOf(ctx, teacher, l.Class.ID)
	ok, err := answer.Found(err)
	if err != nil {
		return from, err
	}
	if l.Progress != store.Now || !ok || !term.Concert.After(people.DateOf(now)) { // nothing to look ahead to
		now, err := t.Ladders.LaddersNow(ctx, teacher, l.Class)
		for _, o := range now {
			if o.ID != l.ID && t.Computes(o.ID, o.SongTitle, func() { t.Ladders.Measure(&o) }) == nil {
				from.others = append(from.others, o)
			}
		}
		return from, err
	}
	v, p, err := t.termOf(ctx, teacher, l.Class, now)
	if err != nil {
		return from, err
	}
	from.others = slices.DeleteFunc(slices.Clone(p.ladders), func(o ladders.Ladder) bool { return o.ID == l.ID })
	p.front(l.ID)
	for _, f := range plan.NewTerm(p.Class, p.termSong(), v.left(now)).Forecasts {
		from.clean[ref.Student(f.ID)] = max(0, f.Clean) // the first step is everybody's
	}
	from.by = v.Concert.Format("2 January")
	return from, nil
}

// sharedStep is a step of another song that a group knows from there.
type sharedStep struct {
	step ladder.Step
	part string // what it is called in the room
	name string
}

// share gives each group what all of it know from other songs on the desk, whose chords hold
// those of this one: the step below the one on which they work there.
func (g *Grow) share(l ladders.Ladder, part song.Song, others []ladders.Ladder) {
	g.shared = map[arrange.Part]sharedStep{}
	for _, o := range others {
		if o.OfTune() || !arrange.MayShare(part.Fingering(l.Instrument), o.Song.Part(o.Sections).Fingering(l.Instrument)) {
			continue
		}
		for k, group := range g.Groups {
			at := len(o.Steps)
			for _, id := range group.Students {
				at = min(at, ladder.Find(o.Steps, o.Places[id])-1)
			}
			if at < 0 || at >= len(o.Steps) || o.Steps[at].Play != difficulty.OnStrings || len(o.Steps[at].Parts) > 0 {
				continue
			}
			step := o.Steps[at]
			known := arrange.Part{Kind: arrange.OnStep, Step: step.ID, Of: int64(o.ID)}
			if _, had := g.shared[known]; !had {
				g.shared[known] = sharedStep{step, o.PartOf(at), fmt.Sprintf("from %s: %s", o.SongTitle, o.Step(at).Name)}
			}
			g.band.Shared(k, arrange.Rung{
				ID: step.ID, Of: int64(o.ID), Name: g.shared[known].name, Figure: step.Pattern,
				Level: difficulty.LevelOf(difficulty.NewTask(step.Pattern, part, l.Instrument, l.Class.School(), part.Tempo), l.Class.Weigh()),
			})
		}
	}
}
