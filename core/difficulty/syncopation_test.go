package difficulty

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
)

// The distance from the beat by which the part off_beat is summed is that of the published measure:
// with its factor for where a note ends, 2 between the next beat and the second, and its mean over all
// notes, it gives the published values. Source: Gómez, Melvin, Rappaport and Toussaint, Mathematical
// measures of syncopation (2005), the six claves and bell patterns of 16 pulses; values from memory of
// the published table, the son clave worked by hand.
func TestWeightedNoteToBeatDistance(t *testing.T) {
	const perBeat = 4
	for name, c := range map[string]struct {
		box  string
		want float64
	}{
		"shiko": {"x...x.x...x.x...", 1.2}, "son": {"x..x..x...x.x...", 2.8}, "rumba": {"x..x...x..x.x...", 3.6},
		"soukous": {"x..x..x...xx....", 3.6}, "bossa nova": {"x..x..x...x..x..", 4.0}, "gahu": {"x..x..x...x...x.", 3.6},
		"the beats alone": {"x...x...x...x...", 0},
	} {
		p := pattern.MustParse("4/4: " + strings.Join(strings.Split(strings.ReplaceAll(c.box, "x", "D"), ""), " "))
		var onsets []int
		for i, slot := range p.Bars[0] {
			if len(slot.Strokes) > 0 {
				onsets = append(onsets, i)
			}
		}
		sum := 0.0
		for i, x := range onsets {
			off := distance(p, x)
			if off == 0 {
				continue
			}
			end := onsets[(i+1)%len(onsets)]
			if end <= x {
				end += len(c.box)
			}
			d, next := 1/off, (x/perBeat+1)*perBeat
			if end > next && end < next+perBeat {
				d *= 2
			}
			sum += d
		}
		assert.InDelta(t, c.want, sum/float64(len(onsets)), 1e-9, name)
	}
}
