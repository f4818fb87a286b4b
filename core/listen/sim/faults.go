package sim

import (
	"fmt"
	"strconv"
	"strings"
)

// Faults are what a player does wrong, and by how much; the zero value is a player who scatters as people do.
type Faults struct {
	LateThumb, Rush float64            // milliseconds: the thumb late, off-beats early
	Stop            map[string]float64 // milliseconds of waiting before a chord; "*" is any
	WrongString     float64            // part of the thumb's strokes that hit another string
	Missed          map[string]float64 // part of a finger's strokes that are left out
	Extra           float64            // part of the strokes after which there is one too many
	Slowing         float64            // BPM that the tempo falls over the take
	Uneven          float64            // decibels by which loudness scatters
	Swung           bool
	BarTwice        bool
}

// ParseFaults reads "rush:40ms,stop:F:400ms,wrong-string:10%,swung"; nothing is a player without faults.
func ParseFaults(text string) (f Faults, err error) {
	f.Stop, f.Missed = map[string]float64{}, map[string]float64{}
	for part := range strings.SplitSeq(text, ",") {
		part = strings.TrimSpace(part)
		if part == "" {
			continue
		}
		name, rest, _ := strings.Cut(part, ":")
		of := ""
		if name == "stop" || name == "missed" {
			var found bool
			if of, rest, found = strings.Cut(rest, ":"); !found || of == "" {
				return f, fmt.Errorf("faults: %q: write %s:%s:size", part, name, map[string]string{"stop": "chord", "missed": "finger"}[name])
			}
		}
		switch name {
		case "late-thumb":
			f.LateThumb, err = size(rest, "ms", 500)
		case "rush":
			f.Rush, err = size(rest, "ms", 500)
		case "stop":
			f.Stop[of], err = size(rest, "ms", 5000)
		case "wrong-string":
			f.WrongString, err = percent(rest)
		case "missed":
			f.Missed[of], err = percent(rest)
		case "extra":
			f.Extra, err = percent(rest)
		case "slowing":
			f.Slowing, err = size(rest, "bpm", 100)
		case "uneven":
			f.Uneven, err = size(rest, "db", 20)
		case "swung":
			f.Swung = true
		case "bar-twice":
			f.BarTwice = true
		default:
			return f, fmt.Errorf("faults: %q is none of late-thumb, rush, stop, wrong-string, missed, extra, slowing, uneven, swung, bar-twice", name)
		}
		if err != nil {
			return f, fmt.Errorf("faults: %s: %w", name, err)
		}
	}
	return f, nil
}

// size reads a number with or without its unit, from 0 to a most.
func size(text, unit string, most float64) (float64, error) {
	n, err := strconv.ParseFloat(strings.TrimSpace(strings.TrimSuffix(strings.ToLower(text), unit)), 64)
	if err != nil || !(n >= 0 && n <= most) {
		return 0, fmt.Errorf("%q is not from 0 to %g %s", text, most, unit)
	}
	return n, nil
}

func percent(text string) (float64, error) {
	n, err := size(text, "%", 100)
	return n / 100, err
}
