package song

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/pattern"
	"arplin/core/theory"
)

// ParseChords reads a line of bars, "C | Am | F G7 | C"; the chords of a bar
// share it equally. Empty bars at either end, from outer bar lines, do not count.
func ParseChords(line string, meter pattern.Meter) ([]Bar, error) {
	line = strings.TrimSpace(line)
	line = strings.TrimSuffix(strings.TrimPrefix(line, "|"), "|")
	var bars []Bar
	for i, text := range strings.Split(line, "|") {
		symbols := strings.Fields(text)
		if len(symbols) == 0 {
			return nil, fmt.Errorf("chords: bar %d is empty", i+1)
		}
		for _, symbol := range symbols {
			if _, err := theory.ParseChord(symbol); err != nil {
				return nil, fmt.Errorf("chords: bar %d: %w", i+1, err)
			}
		}
		bars = append(bars, Bar{Changes: Share(meter, symbols)})
	}
	return bars, nil
}

// silent is how a bar without a chord is written.
var silent = map[string]bool{"n.c.": true, "n.c": true, "nc": true, "nc.": true, "no-chord": true, "tacet": true}

// IsNoChord reports a way of writing that nothing is played.
func IsNoChord(symbol string) bool { return silent[strings.ToLower(symbol)] }

// maxChords bounds what one bar holds; ten equal shares are whole ticks.
const maxChords = 10

// ParseBar reads one bar as a teacher types it: "C", "F G7" in equal parts, or
// with beats of the time signature, "F:3 G7:1". A chord that cannot be read is
// kept; only the form of the line is checked. Without chords the bar is empty.
func ParseBar(text string, meter pattern.Meter) ([]Change, error) {
	fields := strings.Fields(text)
	if len(fields) > maxChords {
		return nil, fmt.Errorf("a bar holds at most %d chords", maxChords)
	}
	beat := meter.BarTicks() / int(meter.Beats)
	left, free := meter.BarTicks(), 0
	changes := make([]Change, len(fields))
	for i, f := range fields {
		symbol, beats, written := strings.Cut(f, ":")
		changes[i].Symbol = symbol
		if c, err := theory.ParseChord(symbol); err == nil {
			changes[i].Symbol = c.String()
		} else if silent[strings.ToLower(symbol)] {
			changes[i].Symbol = NoChord
		}
		if symbol == "" {
			return nil, fmt.Errorf("%q has no chord before the colon", f)
		}
		if !written {
			free++
			continue
		}
		n, err := strconv.ParseFloat(beats, 64)
		if err != nil || n <= 0 || n > 64 {
			return nil, fmt.Errorf("%q is not a number of beats", beats)
		}
		changes[i].Ticks = int(n*float64(beat) + 0.5)
		left -= changes[i].Ticks
	}
	if free > 0 && left < free {
		return nil, fmt.Errorf("no beat is left for %d of the chords", free)
	}
	shared := 0
	for i := range changes {
		if changes[i].Ticks == 0 {
			changes[i].Ticks = left*(shared+1)/free - left*shared/free
			shared++
		}
	}
	return changes, nil
}

// BarText is the inverse of ParseBar.
func BarText(changes []Change, meter pattern.Meter) string {
	symbols := make([]string, len(changes))
	for i, ch := range changes {
		symbols[i] = ch.Symbol
	}
	equal := true
	for i, ch := range Share(meter, symbols) {
		equal = equal && ch.Ticks == changes[i].Ticks
	}
	beat := float64(meter.BarTicks() / int(meter.Beats))
	for i, ch := range changes {
		if !equal {
			symbols[i] += ":" + strconv.FormatFloat(float64(ch.Ticks)/beat, 'g', -1, 64)
		}
	}
	return strings.Join(symbols, " ")
}
