package ladder_test

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
)

// cases are stages that practitioners go through, and the chords with which they
// begin. Source: common practice, see the file.
type cases struct {
	Ladders []struct {
		Name, Pattern, Chords string
		Order                 order.Order
		Size                  order.Size
		Stages, Never         []string
	}
	Firsts []struct {
		Name, Pattern, Chords string
		First                 string
		Not                   string `json:"first_not"`
		Pair                  []string
	}
}

func readCases(t *testing.T) (c cases) {
	t.Helper()
	data, err := os.ReadFile("testdata/ladders.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &c))
	return c
}

// onStrings are the figures of a ladder on strings, in order, on the coarsest grid that
// holds each.
func onStrings(steps []ladder.Step) (list []string) {
	for _, s := range steps {
		if s.Play == difficulty.OnStrings {
			list = append(list, difficulty.Coarsest(s.Pattern).String())
		}
	}
	return list
}

// passed counts the stages that a ladder goes through in their order, and names those
// that it leaves out.
func passed(list, stages []string) (n int, missed []string) {
	at := make([][]int, len(stages)+1) // longest common subsequence
	for i := range at {
		at[i] = make([]int, len(list)+1)
	}
	for i := len(stages) - 1; i >= 0; i-- {
		for j := len(list) - 1; j >= 0; j-- {
			if at[i][j] = max(at[i+1][j], at[i][j+1]); stages[i] == list[j] {
				at[i][j] = max(at[i][j], 1+at[i+1][j+1])
			}
		}
	}
	i, j := 0, 0
	for i < len(stages) {
		switch {
		case j < len(list) && stages[i] == list[j]:
			i, j = i+1, j+1
		case j < len(list) && at[i][j+1] >= at[i+1][j]:
			j++
		default:
			missed = append(missed, stages[i])
			i++
		}
	}
	return at[0][0], missed
}

// Every ladder passes through the stages of practitioners, four fifths of them each
// and 95 of a hundred of all; and never through a figure that no teacher would show.
func TestStagesOfPractitioners(t *testing.T) {
	all, through := 0, 0
	for _, c := range readCases(t).Ladders {
		p := pattern.MustParse(c.Pattern)
		steps := grow.Build(order.Choice{Order: c.Order, Size: c.Size}, task(t, p, c.Chords), difficulty.Fitted, 0)
		var stages []string
		for _, s := range c.Stages {
			stages = append(stages, difficulty.Coarsest(pattern.MustParse(s)).String())
		}
		n, missed := passed(onStrings(steps), stages)
		all, through = all+len(stages), through+n
		if len(missed) > 0 {
			t.Logf("%s leaves out %q", c.Name, missed)
		}
		assert.GreaterOrEqual(t, float64(n), 0.8*float64(len(stages)), "%s: %q", c.Name, onStrings(steps))
		for _, never := range c.Never {
			assert.NotContains(t, onStrings(steps), difficulty.Coarsest(pattern.MustParse(never)).String(), c.Name)
		}
	}
	assert.GreaterOrEqual(t, float64(through), 0.95*float64(all), "%d of %d", through, all)
}

// The first chord and the first pair are those with which a teacher would begin.
func TestFirstChordsOfPractitioners(t *testing.T) {
	for _, c := range readCases(t).Firsts {
		tk := task(t, pattern.MustParse(c.Pattern), c.Chords)
		steps := grow.Build(order.Choice{}, tk, difficulty.Fitted, 0)
		for _, s := range steps {
			switch stage := s.Stage(tk); {
			case len(stage) == 1 && c.First != "":
				assert.Equal(t, c.First, stage[0], c.Name)
			case len(stage) == 1 && c.Not != "":
				assert.NotEqual(t, c.Not, stage[0], c.Name)
			case len(stage) == 2 && len(c.Pair) == 2:
				assert.ElementsMatch(t, c.Pair, stage, c.Name)
			}
		}
	}
}
