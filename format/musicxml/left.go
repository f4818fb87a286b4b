package musicxml

import (
	"fmt"
	"strconv"
	"strings"
)

// What is left out of many bars, as it is said once.
const (
	leftVoice  = "notes of a second voice or staff are left out: a song takes one melody"
	leftLower  = "of notes that sound together the highest is taken, the others are left out"
	leftVerse  = "further verses under the notes are left out"
	leftDrums  = "notes without a pitch are left out"
	leftSlash  = "slashes are left out: they say that something is strummed, not what"
	leftTempo  = "a change of tempo is left out"
	leftKey    = "a change of key is left out; chords and notes sound as they are written"
	leftSilent = "a sign that repeats bars is left out: there are none before it"
)

// leave notes what is left out of a bar, counted from 0.
func (r *reader) leave(bar int, what string) {
	if r.left == nil {
		r.left = map[string][]int{}
	}
	if r.left[what] == nil {
		r.leftOrder = append(r.leftOrder, what)
	}
	if n := len(r.left[what]); n == 0 || r.left[what][n-1] != bar+1 {
		r.left[what] = append(r.left[what], bar+1)
	}
}

// sayLeft lists what was left out, each kind once with all its bars.
func (r *reader) sayLeft() {
	for _, what := range r.leftOrder {
		r.problem(0, "%s: %s", barsText(r.left[what]), what)
	}
}

// barsText is bars as runs: "bars 1 to 4, 7".
func barsText(bars []int) string {
	var runs []string
	for i := 0; i < len(bars); {
		j := i
		for j+1 < len(bars) && bars[j+1] == bars[j]+1 {
			j++
		}
		if j > i {
			runs = append(runs, fmt.Sprintf("%d to %d", bars[i], bars[j]))
		} else {
			runs = append(runs, strconv.Itoa(bars[i]))
		}
		i = j + 1
	}
	if len(bars) == 1 {
		return "bar " + runs[0]
	}
	return "bars " + strings.Join(runs, ", ")
}

func (r *reader) problem(bar int, format string, args ...any) {
	if len(r.problems) < maxProblems {
		r.problems = append(r.problems, Problem{bar, fmt.Sprintf(format, args...)})
	}
}
