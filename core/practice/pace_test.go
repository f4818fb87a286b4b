package practice_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/practice"
)

// By hand: of nobody anything is known, so the pace is the usual one and the logarithm spreads by a
// half. One step of 8 days: e to the ±1.28/2. Of four, half of the variance stays, the other half
// is a quarter: e to the ±1.28·0.5·√0.625. Source: sums of equal independent variables.
func TestSeveralStepsSpreadLess(t *testing.T) {
	p := practice.PaceOf(nil)
	assert.Equal(t, practice.Span{Low: 4, Days: 8, High: 15}, p.Likely(8))
	assert.Equal(t, practice.Span{Low: 19, Days: 32, High: 53}, p.Likely(8, 8, 8, 8))
	// One long step and three short are more like one: √(0.5+0.5·(29²+3)/32²) is 0.955.
	assert.Equal(t, practice.Span{Low: 17, Days: 32, High: 59}, p.Likely(29, 1, 1, 1))
	assert.Equal(t, practice.Span{Low: 1, Days: 1, High: 2}, p.Likely(1), "never less than a day")
}
