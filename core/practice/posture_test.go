package practice_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/practice"
)

// Where teachers disagree the class's side is told, never both. Source: common
// practice, the questions of the schools.
func TestPostureTellsTheClassesSide(t *testing.T) {
	for _, c := range []struct {
		schools        practice.Schools
		says, withheld string
	}{
		{practice.Schools{Anchor: true}, "rests lightly on the top", "The hand floats"},
		{practice.Schools{}, "The hand floats", "rests lightly"},
		{practice.Schools{LongNails: true}, "filed smooth", "fingertip"},
		{practice.Schools{}, "fingertip", "filed smooth"},
		{practice.Schools{Wrist: true}, "from the wrist; the elbow is still", "forearm"},
		{practice.Schools{}, "from the forearm", "the elbow is still"},
		{practice.Schools{Moving: true}, "follow the chord", "keeps its string"},
		{practice.Schools{}, "keeps its string", "follow the chord"},
	} {
		text := strings.Join(practice.Posture(c.schools, true, true), " ")
		assert.Contains(t, text, c.says, "%+v", c.schools)
		assert.NotContains(t, text, c.withheld, "%+v", c.schools)
	}
}

// A strum needs no word about plucking, nor the other way round.
func TestPostureIsAboutWhatIsPlayed(t *testing.T) {
	plucked := strings.Join(practice.Posture(practice.Schools{}, true, false), " ")
	strummed := strings.Join(practice.Posture(practice.Schools{}, false, true), " ")
	assert.Contains(t, plucked, "pull the string out")
	assert.NotContains(t, plucked, "The strum comes")
	assert.Contains(t, strummed, "The hand keeps moving")
	assert.NotContains(t, strummed, "string out")
	assert.Empty(t, practice.Posture(practice.Schools{}, false, false))
}

// The usual cautions, all of them. Source: common practice.
func TestCare(t *testing.T) {
	text := strings.ToLower(strings.Join(practice.Care, " "))
	for _, want := range []string{"warm up", "breaks", "pain", "doctor", "slowly", "without tension"} {
		assert.Contains(t, text, want)
	}
}

func TestTempos(t *testing.T) {
	for text, want := range map[string]int{"72": 72, " 20 ": 20, "300": 300} {
		n, err := practice.ParseTempo(text)
		assert.NoError(t, err)
		assert.Equal(t, want, n)
	}
	for _, text := range []string{"", "19", "301", "fast", "7 2", "72.5"} {
		_, err := practice.ParseTempo(text)
		assert.ErrorContains(t, err, "is not a tempo from 20 to 300", text)
	}
}
