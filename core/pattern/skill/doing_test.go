package skill_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/pattern/skill"
)

// What a hand does in figures that every teacher sorts so: common practice.
func TestWhatTheHandDoes(t *testing.T) {
	for notation, want := range map[string]skill.Doing{
		"4/4: p . p' . p . p' .":                 skill.ThumbAlone,
		"4/4: p i m a p i m a":                   skill.InTurn,
		"4/4: p . p'+m . p i p' .":               skill.OverThumb,
		"4/4: p+m . . . p+m . . .":               skill.OverThumb,
		"4/4: p . i+m+a . p . i+m+a .":           skill.AsOne,
		"4/4: ~ ~ ~ ~ ~ ~ ~ ~ | p i m i p i m i": skill.Sweeps,
		"4/4: D . D . D . D .":                   skill.DownsOnly,
		"4/4: D . D U . U D U":                   skill.DownAndUp,
		"4/4: p . Dt Ut p' . Dt Ut":              skill.BassStrum,
		"4/4: Dr . Dt Ut D' . Dt Ut":             skill.BassStrum,
		"4/4: D . Dx U . U Dx U":                 skill.Percussive,
		"4/4: D = D = D = D =":                   skill.Percussive,
		"4/4: p+m . N+X m p+m i N+X m":           skill.Percussive,
	} {
		assert.Equal(t, want, skill.Does(pattern.MustParse(notation)), notation)
	}
	for _, d := range skill.Doings {
		n := 0
		for _, e := range catalogue.All {
			if skill.Does(e.Pattern) == d.Doing {
				n++
			}
		}
		assert.GreaterOrEqual(t, n, 3, "a way in has patterns behind it: %s", d.Name)
	}
}
