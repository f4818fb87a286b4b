package patterns_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/pattern"
	"arplin/teach/patterns"
)

// No change of the bench takes strokes away unsaid.
func TestTheBenchSaysWhichStrokesWent(t *testing.T) {
	bench := patterns.Bench{Pattern: pattern.MustParse("4/4: p i m a p i m a")}
	three, err := bench.Press(patterns.BenchMeter, "3/4")
	require.NoError(t, err)
	assert.Equal(t, "4/4: p i m a p i m a", bench.Pattern.String())
	assert.Equal(t, "2 strokes at the end of the bar went (m on 4, a on the “and” of 4); undo brings them back.", three.Said)
	coarse, err := bench.Press(patterns.BenchGrid, "4")
	require.NoError(t, err)
	assert.Equal(t, "4 strokes between the new slots went (i on the “and” of 1, a on the “and” of 2, i on the “and” of 3, a on the “and” of 4); undo brings them back.", coarse.Said)
	fine, err := bench.Press(patterns.BenchGrid, "16")
	require.NoError(t, err)
	assert.Empty(t, fine.Said)
	assert.Equal(t, bench.Pattern.Count(), fine.Pattern.Count())
}
