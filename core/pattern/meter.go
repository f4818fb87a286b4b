package pattern

import (
	"fmt"
)

// Meter is a time signature that patterns use. The zero value is no meter.
type Meter struct {
	Beats, Unit int8 // 6 and 8 for 6/8
}

// Meters lists the time signatures that Arplin knows.
var Meters = []Meter{{2, 4}, {3, 4}, {4, 4}, {5, 4}, {6, 8}, {9, 8}, {12, 8}}

// ParseMeter reads "4/4".
func ParseMeter(s string) (Meter, error) {
	for _, m := range Meters {
		if m.String() == s {
			return m, nil
		}
	}
	return Meter{}, fmt.Errorf("%q is not a time signature that patterns use: 2/4, 3/4, 4/4, 5/4, 6/8, 9/8 or 12/8", s)
}

// String prints the meter as "6/8".
func (m Meter) String() string { return fmt.Sprintf("%d/%d", m.Beats, m.Unit) }

// MarshalText and UnmarshalText keep a meter as "6/8".
func (m Meter) MarshalText() ([]byte, error) { return []byte(m.String()), nil }

// UnmarshalText is the inverse of MarshalText.
func (m *Meter) UnmarshalText(text []byte) (err error) {
	*m, err = ParseMeter(string(text))
	return err
}

// TicksPerQuarter divides a quarter note so finely that every grid and every
// equal share of a bar among up to ten chords is whole.
const TicksPerQuarter = 5040

// BarTicks is the length of a bar.
func (m Meter) BarTicks() int { return int(m.Beats) * TicksPerQuarter * 4 / int(m.Unit) }

// BeatTicks is the length of the beat that a foot taps: the quarter, and in
// 6/8, 9/8 and 12/8 the dotted quarter.
func (m Meter) BeatTicks() int {
	if m.Compound() {
		return TicksPerQuarter * 3 / 2
	}
	return TicksPerQuarter
}

// CountTicks is the length of what is counted aloud: the quarter, and in 6/8, 9/8 and 12/8 the eighth.
func (m Meter) CountTicks() int {
	if m.Compound() {
		return TicksPerQuarter / 2
	}
	return TicksPerQuarter
}

// BeatName is the beat's unit in words, for tempos.
func (m Meter) BeatName() string {
	if m.Compound() {
		return "dotted quarter"
	}
	return "quarter"
}

// TappedBeats is how many beats a foot taps in a bar.
func (m Meter) TappedBeats() int { return m.BarTicks() / m.BeatTicks() }

// Compound reports whether the beat divides into three eighths.
func (m Meter) Compound() bool { return m.Unit == 8 }

// Grids lists the slot counts that a bar may have, the coarsest first.
func (m Meter) Grids() []int {
	n := int(m.Beats)
	if m.Compound() {
		return []int{n, 2 * n}
	}
	return []int{n, 2 * n, 3 * n, 4 * n}
}

func (m Meter) allows(grid int) bool {
	for _, g := range m.Grids() {
		if g == grid {
			return true
		}
	}
	return false
}

// SlotsPerBeat is how many slots of the grid a tapped beat has.
func (m Meter) SlotsPerBeat(grid int) int { return grid / m.TappedBeats() }
