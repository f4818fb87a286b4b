package chordpro

import (
	"fmt"
	"regexp"
	"strings"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/letters"
)

// strumLine is a line that says how a song is struck: "Strumming: D DU UDU", "Picking: p i m a".
var strumLine = regexp.MustCompile(`(?i)^(?:strum(?:ming|s)?(?: pattern)?|picking(?: pattern)?|pattern|rhythm)\s*[:=]\s*(\S.*)$`)

// strum is such a line: what it says, and the part that it stands in; -1 before any, for all of them.
type strum struct {
	line    int // from 1
	text    string
	section int
}

// strums keeps a line that says how a song is struck until the meter is known; ok is false for one
// that says no figure.
func (r *reader) strums(line string) bool {
	m := strumLine.FindStringSubmatch(line)
	if m == nil {
		return false
	}
	p, err := pattern.Read(m[1], r.song.Meter)
	if err != nil || p.HasStrums() && p.UsesFingers() { // "D A D" are chords
		return false
	}
	s := strum{r.at + 1, m[1], -1}
	if r.open {
		s.section = len(r.song.Sections) - 1
	}
	r.figures = append(r.figures, s)
	r.as(r.at, AsStrum)
	return true
}

// struck puts the figures on their parts: one that stands in a part is that part's, one over the song
// that of all the others.
func (r *reader) struck() {
	for _, s := range r.figures {
		p, err := pattern.Read(s.text, r.song.Meter)
		if err != nil {
			r.problems = append(r.problems, Problem{s.line, fmt.Sprintf("“%s” does not fit a bar of %s; it is kept as a note", s.text, r.song.Meter)})
			r.song.Notes = append(r.song.Notes, strings.TrimSpace(r.text[s.line-1]))
			continue
		}
		for i := range r.song.Sections {
			if sec := &r.song.Sections[i]; s.section == i || s.section < 0 && sec.Pattern == "" {
				sec.Pattern, sec.PatternName = p.String(), letters.Cut(s.text, song.MaxPatternName)
			}
		}
	}
}
