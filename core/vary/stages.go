package vary

import (
	"math"

	"arplin/core/demand"
	"arplin/core/song"
	"arplin/core/theory"
)

// chordStages are the easiest chord alone and the easiest two that follow each
// other; nil where the song has no more than that.
func chordStages(t demand.Task) (one, two []song.Bar) {
	var steps []theory.Chord
	for _, bar := range t.Bars {
		for _, ch := range bar.Changes {
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
		return nil, nil
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
	meter := t.Pattern.Meter
	bar := func(c theory.Chord) song.Bar { return song.Bar{Changes: song.Share(meter, []string{c.String()})} }
	one = []song.Bar{bar(easiest)}
	if len(different) > 1 {
		two = []song.Bar{bar(pair[0]), bar(pair[0]), bar(pair[1]), bar(pair[1])}
	}
	return one, two
}
