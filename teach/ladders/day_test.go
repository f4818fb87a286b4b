package ladders

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
)

// An evening in Ohio, five hours behind, is one day though midnight in Greenwich falls into
// it; the next morning is another.
func TestAnEveningIsOneDay(t *testing.T) {
	here := time.Local
	time.Local = time.FixedZone("Ohio", -5*60*60)
	t.Cleanup(func() { time.Local = here })
	at := func(day, hour, minute int) int {
		return DayOf(time.Date(2026, 11, day, hour, minute, 0, 0, time.Local).UTC())
	}
	assert.Equal(t, at(24, 18, 30), at(24, 19, 30))
	assert.Equal(t, at(24, 18, 30)+1, at(25, 8, 0))
}
