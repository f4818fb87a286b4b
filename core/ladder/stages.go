package ladder

import (
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/song"
	"arplin/core/theory"
)

// stages are the bars of the stages of chords of a target on its song.
type stages struct {
	whole    difficulty.Task
	one, two []song.Bar // nil where the song has no more than that
}

// stagesOf finds the easiest chord alone and the easiest two that follow each
// other.
func stagesOf(t difficulty.Task) stages {
	s := stages{whole: t}
	var steps []theory.Chord
	order := t.Sung()
	for _, rest := range t.Rest {
		order = append(order[:len(order):len(order)], rest.Sung()...)
	}
	for _, at := range order {
		for _, ch := range t.Bars[at.Bar].Changes {
			if c, err := ch.Chord(); err == nil && (len(steps) == 0 || steps[len(steps)-1] != c) {
				steps = append(steps, c)
			}
		}
	}
	different := map[theory.Chord]bool{}
	for _, c := range steps {
		different[c] = true
	}
	if len(different) < 2 {
		return s
	}
	easiest := steps[0]
	pair, pairHold := [2]theory.Chord{}, math.Inf(1)
	for i, c := range steps {
		if t.Shapes[c].Hold < t.Shapes[easiest].Hold {
			easiest = c
		}
		if i > 0 {
			if hold := t.Shapes[c].Hold + t.Shapes[steps[i-1]].Hold; hold < pairHold {
				pairHold, pair = hold, [2]theory.Chord{steps[i-1], c}
			}
		}
	}
	bar := func(c theory.Chord) song.Bar {
		return song.Bar{Changes: song.Share(t.Pattern.Meter, []string{c.String()})}
	}
	s.one = []song.Bar{bar(easiest)}
	s.two = []song.Bar{bar(pair[0]), bar(pair[0]), bar(pair[1]), bar(pair[1])}
	return s
}

// task is what a step asks.
func (st stages) task(s Step) difficulty.Task {
	t := st.on(st.whole, s)
	t.Pattern, t.Rest = s.Pattern, nil
	for _, part := range s.Parts {
		i := slices.IndexFunc(st.whole.Rest, func(t difficulty.Task) bool { return slices.Equal(t.Sections, part.Sections) })
		if i >= 0 {
			rest := st.on(st.whole.Rest[i], s)
			rest.Pattern = part.Pattern
			t.Rest = append(t.Rest, rest)
		}
	}
	return t
}

// on puts a task on the chords of a step, in its way and at its goal.
func (st stages) on(t difficulty.Task, s Step) difficulty.Task {
	if s.Over != AllChords && s.Over != "" {
		t.Played = nil
	}
	switch {
	case s.Over == OneChord && st.one != nil:
		t.Bars = st.one
	case s.Over == OneChord:
		if order := st.whole.Sung(); len(order) > 0 {
			t.Bars = t.Bars[order[0].Bar : order[0].Bar+1]
		}
	case s.Over == TwoChords && st.two != nil:
		t.Bars = st.two
	case s.Over == TwoChordsABar && st.two != nil:
		t.Bars = st.two[1:3]
	}
	t.Play, t.Tempo = s.Play, s.Goal(t.Tempo)
	return t
}
