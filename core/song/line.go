package song

import (
	"fmt"
	"strings"

	"arplin/core/hand"
	"arplin/core/theory"
)

// ParseChords reads a line of bars, "C | Am | F G7 | C"; the chords of a bar
// share it equally. Empty bars at either end, from outer bar lines, do not count.
func ParseChords(line string, meter hand.Meter) ([]Bar, error) {
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
