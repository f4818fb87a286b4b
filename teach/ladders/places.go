package ladders

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/fit"
	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Proposal is where a waiting student could begin, and why.
type Proposal struct {
	store.Student
	Step   ladder.StepID
	Number int
	Heard  bool
	Why    string
}

// clean is the hardest thing that a student has played clean.
type clean struct {
	level float64
	entry store.Entry
	on    Ladder
}

// hardestClean finds what each student of a class has played, at the tempo that
// was clean, each step as it was played.
func (t *Room) hardestClean(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (map[ref.Student]clean, error) {
	entries, err := t.Store.Entries(ctx, teacher, c.ID, Since(now))
	if err != nil {
		return nil, err
	}
	var ids []ref.Ladder
	for _, e := range entries {
		if !slices.Contains(ids, e.LadderID) {
			ids = append(ids, e.LadderID)
		}
	}
	ladders, err := t.LaddersOf(ctx, teacher, c, ids)
	if err != nil {
		return nil, err
	}
	return answer.Keep(t.From, "heard", answer.RowsOf(EntryIDs(entries), versionsOf(ladders, ids), c.Class, c.Students), func() map[ref.Student]clean { return t.hardest(entries, ladders, c) }), nil
}

// LaddersOf loads ladders of a class with their songs, without who stands on them.
func (t *Room) LaddersOf(ctx context.Context, teacher ref.Teacher, c people.Class, ids []ref.Ladder) (map[ref.Ladder]Ladder, error) {
	stored, err := t.Store.LaddersOf(ctx, teacher, ids)
	if err != nil {
		return nil, err
	}
	var songIDs []ref.Song
	for _, l := range stored {
		songIDs = append(songIDs, l.SongID)
	}
	songs, err := t.Store.SongsOf(ctx, teacher, songIDs)
	if err != nil {
		return nil, err
	}
	list := map[ref.Ladder]Ladder{}
	for id, l := range stored {
		list[id] = Ladder{Ladder: l, Class: c.On(songs[l.SongID].Song), Song: songs[l.SongID], Instrument: c.Instrument(l.Instrument)}
	}
	return list, nil
}

// versionsOf is what changes when one of the ladders or its song does.
func versionsOf(ladders map[ref.Ladder]Ladder, ids []ref.Ladder) (versions []int) {
	for _, id := range ids {
		versions = append(versions, int(id), ladders[id].Version, ladders[id].Song.Version)
	}
	return versions
}

func (t *Room) hardest(entries []store.Entry, ladders map[ref.Ladder]Ladder, c people.Class) map[ref.Student]clean {
	type played struct {
		ladder ref.Ladder
		step   string
		tempo  int
	}
	best := map[ref.Student]clean{}
	tasks, known := map[ref.Ladder]Ladder{}, map[played]float64{}
	for _, e := range entries {
		if e.Failed {
			continue
		}
		on, ok := tasks[e.LadderID]
		if !ok {
			on = ladders[e.LadderID]
			_ = t.Computes(on.ID, on.SongTitle, func() {
				on.Task = LadderTask(on.Target, PartsOf(on.Steps), on.Begin, on.Song.Song, on.Sections, on.Instrument, c)
			})
			tasks[e.LadderID] = on
		}
		if len(on.Task.Bars) == 0 {
			continue // what could not be computed says nothing of how far somebody is
		}
		key := played{e.LadderID, fmt.Sprint(e.Step.Pattern, e.Step.Over, e.Step.Play, e.Step.Pace), e.Tempo}
		level, ok := known[key]
		if !ok {
			level = e.Step.LevelAt(e.Tempo, on.Task, c.Weigh())
			known[key] = level
		}
		if level > best[e.StudentID].level {
			best[e.StudentID] = clean{level, e, on}
		}
	}
	return best
}

// propose finds a step for everybody who waits beside a ladder.
func (t *Room) propose(ctx context.Context, teacher ref.Teacher, l Ladder, waiting []store.Student, now time.Time) ([]Proposal, error) {
	if len(waiting) == 0 {
		return nil, nil
	}
	heard, err := t.hardestClean(ctx, teacher, l.Class, now)
	if err != nil {
		return nil, err
	}
	var list []Proposal
	for _, st := range waiting {
		p := Proposal{Student: st, Why: "nothing logged yet"}
		at := 0
		if h, ok := heard[st.ID]; ok {
			at, p.Heard = ladder.Reach(l.Steps, h.level), true
			p.Why = fmt.Sprintf("has played level %.1f clean: “%s” of %s at %d", h.level, playedName(h), h.on.SongTitle, h.entry.Tempo)
		}
		p.Step, p.Number = l.Steps[at].ID, at+1
		list = append(list, p)
	}
	return list, nil
}

// playedName is what a step was called on which something was played: where it
// still stands, beside the step below it.
func playedName(h clean) string {
	if at := ladder.Find(h.on.Steps, h.entry.Step.ID); at >= 0 && h.on.Steps[at].Same(h.entry.Step) {
		return ladder.Describe(h.on.Steps, at, h.on.Task).Name
	}
	return ladder.Describe([]ladder.Step{h.entry.Step}, 0, h.on.Task).Name
}

// Place puts students on steps and says who stands where now; step 0 takes one
// off.
func (t *Room) Place(ctx context.Context, teacher ref.Teacher, l Ladder, places store.Places, decided ...store.Decision) (says string, version int, err error) {
	for _, step := range places {
		if step != 0 && ladder.Find(l.Steps, step) < 0 {
			return "", 0, answer.Refuse("that step isn’t on the ladder any more. This is the latest version")
		}
	}
	if _, version, err = t.Store.Place(ctx, teacher, l.ID, places, decided...); err != nil {
		return "", 0, err
	}
	return l.placedWords(places), version, nil
}

// placedWords says who was put where.
func (l Ladder) placedWords(places store.Places) string {
	if len(places) == 1 {
		for id, step := range places {
			name := "The student"
			if st, ok := l.Class.Student(id); ok {
				name = st.Name
			}
			if step == 0 {
				return name + " isn’t placed yet."
			}
			return fmt.Sprintf("%s is on step %d now.", name, ladder.Find(l.Steps, step)+1)
		}
	}
	var said []string
	for _, st := range l.Class.Students {
		if step, ok := places[st.ID]; ok && step != 0 {
			said = append(said, fmt.Sprintf("%s %d", st.Name, ladder.Find(l.Steps, step)+1))
		}
	}
	if len(said) == 0 {
		return "They aren’t placed any more."
	}
	return "Placed: " + strings.Join(said, ", ") + "."
}

// LeadsTo is the number of the step to which a decision leads, 0 for staying.
func (l Ladder) LeadsTo(at int, kind practice.Kind) int {
	to := map[practice.Kind]int{practice.MoveOn: at + 1, practice.Jump: at + 2, practice.Ease: at - 1}
	next, moves := to[kind]
	if next = min(next, len(l.Steps)-1); !moves || next < 0 || next == at {
		return 0
	}
	return next + 1
}

// LearnersOf is what is known of a class: who has played what clean, and the figures of
// its ladders.
func (t *Room) LearnersOf(ctx context.Context, teacher ref.Teacher, c people.Class, sg song.Song, now time.Time) (fit.Learners, error) {
	ins := c.Instrument("")
	l := fit.Learners{Players: c.Players(), Weights: c.Weigh(), Task: difficulty.NewTask(pattern.Pattern{Meter: sg.Meter}, sg, ins, c.School(), sg.Tempo)}
	if !c.Has {
		return l, nil
	}
	clean, err := t.hardestClean(ctx, teacher, c, now)
	if err != nil {
		return l, err
	}
	for _, st := range c.Students {
		l.Heard = append(l.Heard, fit.Heard{Name: st.Name, Level: clean[st.ID].level})
	}
	ladders, _, err := t.Store.Ladders(ctx, teacher, c.ID, store.Find{})
	for _, of := range ladders {
		l.Had = append(l.Had, of.Target)
	}
	return l, err
}

// PlaysOf is the hardest level that each student of some ladders has behind them: the step under the
// one on which they stand, as it was measured when it was stored.
func PlaysOf(all []Ladder) map[ref.Student]float64 {
	plays := map[ref.Student]float64{}
	for _, l := range all {
		for st, id := range l.Places {
			if at := ladder.Find(l.Steps, id); at > 0 {
				plays[st] = max(plays[st], l.Steps[at-1].Level)
			}
		}
	}
	return plays
}
