package pattern_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
)

// What a hand does in figures that every teacher sorts so: common practice.
func TestWhatTheHandDoes(t *testing.T) {
	for notation, want := range map[string]pattern.Doing{
		"4/4: p . p' . p . p' .":                 pattern.ThumbAlone,
		"4/4: p i m a p i m a":                   pattern.InTurn,
		"4/4: p . p'+m . p i p' .":               pattern.OverThumb,
		"4/4: p+m . . . p+m . . .":               pattern.OverThumb,
		"4/4: p . i+m+a . p . i+m+a .":           pattern.AsOne,
		"4/4: ~ ~ ~ ~ ~ ~ ~ ~ | p i m i p i m i": pattern.Sweeps,
		"4/4: D . D . D . D .":                   pattern.DownsOnly,
		"4/4: D . D U . U D U":                   pattern.DownAndUp,
		"4/4: p . Dt Ut p' . Dt Ut":              pattern.BassStrum,
		"4/4: Dr . Dt Ut D' . Dt Ut":             pattern.BassStrum,
		"4/4: D . Dx U . U Dx U":                 pattern.Percussive,
		"4/4: D = D = D = D =":                   pattern.Percussive,
		"4/4: p+m . N+X m p+m i N+X m":           pattern.Percussive,
	} {
		assert.Equal(t, want, pattern.MustParse(notation).Does(), notation)
	}
	for _, d := range pattern.Doings {
		n := 0
		for _, e := range catalogue.All {
			if e.Pattern.Does() == d.Doing {
				n++
			}
		}
		assert.GreaterOrEqual(t, n, 3, "a way in has patterns behind it: %s", d.Name)
	}
}
