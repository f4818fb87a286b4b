package patterntest_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"arplin/core/pattern"
	"arplin/core/pattern/patterntest"
)

// What is drawn is read again as it is printed, and everything that the notation has comes.
func TestFiguresOfTheWholeNotation(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	seen := map[pattern.Sign]bool{}
	kinds := map[pattern.TargetKind]bool{}
	var begins, swings bool
	rapid.Check(t, func(rt *rapid.T) {
		p := patterntest.OfNotation(func(n int) int { return rapid.IntRange(0, n-1).Draw(rt, "pick") })
		again, err := pattern.Parse(p.String())
		if err != nil || !again.Equal(p) {
			rt.Fatalf("%s is read as %s: %v", p, again, err)
		}
		p.Each(func(_ pattern.Place, st pattern.Stroke) { seen[st.Sign], kinds[st.Target.Kind] = true, true })
		begins = begins || len(p.Bars[0][0].Strokes) == 0
		swings = swings || strings.Contains(p.String(), "swing")
	})
	for _, sign := range "pimacDUNX~" {
		assert.True(t, seen[pattern.Sign(sign)], "%c", sign)
	}
	for kind := pattern.ByChord; kind <= pattern.Given; kind++ {
		assert.True(t, kinds[kind], "target %d", kind)
	}
	assert.True(t, begins, "a pattern whose first slot is empty")
	assert.True(t, swings)
}
