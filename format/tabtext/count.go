package tabtext

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/pattern"
)

// counted notes one word of the count: a number, or what stands between them.
func (b *Bar) counted(from string) {
	word := strings.FieldsFunc(from, func(r rune) bool { return r == ' ' || r == '|' })[0]
	if n, err := strconv.Atoi(strings.TrimRight(word, ".")); err == nil {
		b.beats = max(b.beats, n)
	} else if word != "." {
		b.ands = true
	}
}

// Counted is the meter that the count under the bars says: numbers with something between them are
// quarters, six, nine or twelve numbers alone eighths in threes. ok is false where nothing is counted.
func (t Tab) Counted() (m pattern.Meter, ok bool) {
	for _, b := range t.Bars {
		unit := 4
		if !b.ands && b.beats >= 6 {
			unit = 8
		}
		if m, err := pattern.ParseMeter(fmt.Sprintf("%d/%d", b.beats, unit)); err == nil && b.beats > 1 {
			return m, true
		}
	}
	return m, false
}
