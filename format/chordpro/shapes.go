package chordpro

import (
	"regexp"
	"strconv"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// ownShape is a shape that the sheet defines, as it is fingered.
type ownShape struct {
	chord theory.Chord
	grip  fretboard.Grip
}

var defineLine = regexp.MustCompile(`(?i)^(\S+)(?:\s+base-fret\s+(\d+))?(?:\s+frets\s+(.*?))?(?:\s+fingers\s+(.*))?$`)

// define reads "Asus2 base-fret 1 frets x 0 2 2 0 0".
func (r *reader) define(value string) bool {
	m := defineLine.FindStringSubmatch(value)
	if m == nil || m[3] == "" {
		r.problem("a shape is written as in {define: Am frets x 0 2 2 1 0}")
		return false
	}
	c, err := theory.ParseChord(r.english(m[1]))
	if err != nil {
		r.problem("%s", err)
		return false
	}
	base := 1
	if m[2] != "" {
		base, _ = strconv.Atoi(m[2]) // digits
	}
	var frets []string
	for _, f := range strings.Fields(m[3]) {
		n, err := strconv.Atoi(f)
		switch {
		case err != nil || n < 0:
			f = "x"
		case n > 0:
			f = strconv.Itoa(n + base - 1)
		}
		frets = append(frets, f)
	}
	grip, err := fretboard.ParseGrip(strings.Join(frets, " "))
	if err != nil {
		r.problem("%s", err)
		return false
	}
	// Fingers that no hand has ("T", a count that is not the strings') are left to the usual ones.
	if with, err := fretboard.ParseGrip(grip.String() + "/" + strings.Join(strings.Fields(m[4]), "")); err == nil {
		grip = with
	}
	r.shapes = append(r.shapes, ownShape{c, grip})
	return true
}
