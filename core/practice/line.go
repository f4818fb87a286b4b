package practice

import (
	"fmt"
	"strconv"
	"strings"
)

// Tempo limits of the log, in beats a minute.
const (
	MinTempo = 20
	MaxTempo = 300
)

// ParseTempo reads a clean tempo.
func ParseTempo(s string) (int, error) {
	n, err := strconv.Atoi(strings.TrimSpace(s))
	if err != nil || n < MinTempo || n > MaxTempo {
		return 0, fmt.Errorf("%q is not a tempo from %d to %d beats a minute", strings.TrimSpace(s), MinTempo, MaxTempo)
	}
	return n, nil
}

// ParseLine reads a log line such as "pia 72": the beginning of one of the
// names, and a tempo. It returns the name's index. A full name is found even
// when it begins another.
func ParseLine(line string, names []string) (who, tempo int, err error) {
	fields := strings.Fields(line)
	if len(fields) < 2 {
		return 0, 0, fmt.Errorf("write a name and a tempo, such as %q", example(names))
	}
	last := len(fields) - 1
	if tempo, err = ParseTempo(fields[last]); err != nil {
		return 0, 0, err
	}
	wanted := strings.ToLower(strings.Join(fields[:last], " "))
	var found []int
	for i, name := range names {
		switch lower := strings.ToLower(name); {
		case lower == wanted:
			return i, tempo, nil
		case strings.HasPrefix(lower, wanted):
			found = append(found, i)
		}
	}
	switch len(found) {
	case 0:
		return 0, 0, fmt.Errorf("nobody in this class is called %q", strings.Join(fields[:last], " "))
	case 1:
		return found[0], tempo, nil
	}
	var candidates []string
	for _, i := range found {
		candidates = append(candidates, names[i])
	}
	return 0, 0, fmt.Errorf("%q could be %s; write more of the name", strings.Join(fields[:last], " "), strings.Join(candidates, " or "))
}

func example(names []string) string {
	if len(names) > 0 {
		return strings.ToLower(names[0]) + " 72"
	}
	return "name 72"
}
