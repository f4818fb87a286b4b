package ladder

import (
	"cmp"
	"fmt"
	"slices"

	"arplin/core/pattern"
	"arplin/core/song"
)

// Fit is how well a pattern of the catalogue suits a song and a class.
type Fit struct {
	pattern.Entry
	Score   float64  // the higher the better
	Reasons []string // clauses, the weightiest first
}

// Comfortable rates and the weights of the reasons; from memory.
const (
	easyRate, busyRate = 2.0, 6.0 // strokes a second
	manyChanges        = 30.0     // chord changes a minute that leave no time to spare
	outsideTempo       = 3.0
	forNobody          = 4.0
	wrongRate          = 1.0
	roomToChange       = 0.8
	growing            = 0.15 // for each pattern that comes before: what is learned early stands first
)

// Fits orders the patterns of the song's meter, the best first, with reasons.
func Fits(sg song.Song, class []song.Players) []Fit {
	changes := 0.0
	for _, p := range class {
		changes = max(changes, sg.LeftHandOn(p.Instrument).ChangesPerMinute)
	}
	var fits []Fit
	for _, e := range pattern.InMeter(sg.Meter) {
		fits = append(fits, fitOf(e, sg, class, changes))
	}
	slices.SortStableFunc(fits, func(a, b Fit) int { return cmp.Compare(b.Score, a.Score) })
	return fits
}

func fitOf(e pattern.Entry, sg song.Song, class []song.Players, changes float64) Fit {
	f := Fit{Entry: e}
	say := func(points float64, format string, args ...any) {
		f.Score += points
		f.Reasons = append(f.Reasons, fmt.Sprintf(format, args...))
	}
	switch {
	case sg.Tempo < e.Tempo[0]:
		say(-outsideTempo, "the song at %d is slower than it likes (%d to %d)", sg.Tempo, e.Tempo[0], e.Tempo[1])
	case sg.Tempo > e.Tempo[1]:
		say(-outsideTempo, "the song at %d is faster than it likes (%d to %d)", sg.Tempo, e.Tempo[0], e.Tempo[1])
	default:
		say(1, "sits well at %d", sg.Tempo)
	}
	for _, p := range class {
		if !slices.Contains(e.Instruments, string(p.Instrument.Family)) {
			say(-forNobody, "not for %s", string(p.Instrument.Family))
		}
	}
	switch rate := e.Pattern.StrokesPerSecond(sg.Tempo); {
	case rate > busyRate:
		say(-wrongRate, "busy: %.1f strokes a second", rate)
	case rate < easyRate:
		say(-wrongRate/2, "sparse: %.1f strokes a second", rate)
	default:
		say(wrongRate/2, "%.1f strokes a second", rate)
	}
	if changes > manyChanges {
		last := e.Pattern.Bars[len(e.Pattern.Bars)-1]
		if last[len(last)-1].Empty() {
			say(roomToChange, "leaves room to change, %.0f times a minute", changes)
		} else {
			say(-roomToChange, "leaves no room to change, %.0f times a minute", changes)
		}
	}
	if sg.Swing != e.Pattern.Swing {
		say(-1, "%s, and the song is not", e.Feel)
	}
	f.Score -= growing * float64(depth(e, 0))
	return f
}

// depth is how many patterns lead up to one.
func depth(e pattern.Entry, seen int) int {
	longest := 0
	for _, id := range e.After {
		if before, ok := pattern.ByID(id); ok && seen < len(pattern.Catalogue) {
			longest = max(longest, 1+depth(before, seen+1))
		}
	}
	return longest
}
