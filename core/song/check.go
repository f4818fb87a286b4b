package song

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"arplin/core/bpm"
	"arplin/core/pattern"
)

// Limits of a song that comes from elsewhere, beyond those that edits have.
const (
	maxSections   = 100
	maxLine       = 2000 // letters of words, of a note, of a symbol
	maxNoteLines  = 2000
	maxBarChanges = 32
	maxRoots      = 100 // instruments, and chords of one, on which the thumb keeps to the root
	maxBarBeats   = 16
)

// Check holds a song that comes from elsewhere against what a song can be: what the pages and the
// rest of the core count on. Chords that nobody knows, and bars that do not add up, are none of it:
// a teacher mends them.
func (s Song) Check() error {
	name := cut(s.Title, 40)
	switch n := len(s.Bars()); {
	case strings.TrimSpace(s.Title) == "" || utf8.RuneCountInString(s.Title) > MaxTitle:
		return fmt.Errorf("a title has 1 to %d characters", MaxTitle)
	case n == 0 || n > MaxBars:
		return fmt.Errorf("%s has %d bars, and a song 1 to %d", name, n, MaxBars)
	case len(s.Sections) > maxSections:
		return fmt.Errorf("%s has %d sections; %d are the most", name, len(s.Sections), maxSections)
	case s.Tempo < bpm.Min || s.Tempo > bpm.Max:
		return fmt.Errorf("%s has a tempo of %d", name, s.Tempo)
	case !slices.Contains(pattern.Meters, s.Meter):
		return fmt.Errorf("%s has no time signature", name)
	case len(s.Tags) > MaxTags || slices.ContainsFunc(s.Tags, func(t string) bool { return utf8.RuneCountInString(t) > MaxTag }):
		return fmt.Errorf("%s has too many tags, or too long ones", name)
	case long(s.Notes):
		return fmt.Errorf("%s has too many notes, or too long ones", name)
	}
	for _, capo := range s.Capo {
		if capo < 0 || capo > 12 {
			return fmt.Errorf("%s has a capo at fret %d", name, capo)
		}
	}
	number := 0
	for _, sec := range s.Sections {
		if utf8.RuneCountInString(sec.Name) > MaxSectionName || sec.Times < 0 || sec.Times > MaxTimes || len(sec.Pattern) > 8000 || utf8.RuneCountInString(sec.PatternName) > MaxPatternName {
			return fmt.Errorf("%s: the section %s is named too long, or played too often", name, cut(sec.Name, 40))
		}
		for _, b := range sec.Bars {
			number++
			if err := b.check(); err != nil {
				return fmt.Errorf("%s, bar %d: %w", name, number, err)
			}
		}
	}
	for ins, chords := range s.Roots {
		if len(s.Roots) > maxRoots || len(chords) > maxRoots || utf8.RuneCountInString(ins) > 40 || slices.ContainsFunc(chords, func(c string) bool { return utf8.RuneCountInString(c) > 40 }) {
			return fmt.Errorf("%s: the thumb keeps to too many roots", name)
		}
	}
	return s.checkTunes()
}

func cut(text string, letters int) string {
	if r := []rune(text); len(r) > letters {
		return string(r[:letters]) + "…"
	}
	return text
}

// long reports lines that are too many or too long.
func long(lines []string) bool {
	return len(lines) > maxNoteLines || slices.ContainsFunc(lines, func(l string) bool { return utf8.RuneCountInString(l) > maxLine })
}

func (b Bar) check() error {
	known := func(r struct {
		Role Role
		Says string
	}) bool {
		return r.Role == b.Role
	}
	switch {
	case b.Ending < 0 || b.Ending > MaxEnding:
		return fmt.Errorf("there is no ending %d", b.Ending)
	case !slices.ContainsFunc(Roles, known):
		return fmt.Errorf("%q is nothing that a bar is", cut(string(b.Role), 20))
	case b.Meter != (pattern.Meter{}) && !slices.Contains(pattern.Meters, b.Meter):
		return fmt.Errorf("%s is no time signature", b.Meter)
	case len(b.Changes) > maxBarChanges || len(b.Melody) > MaxMelodyNotes || utf8.RuneCountInString(b.Words) > maxLine || long(b.Notes):
		return fmt.Errorf("there is too much in it")
	}
	for _, ch := range b.Changes {
		if ch.Ticks <= 0 || ch.Ticks > maxBarBeats*pattern.TicksPerQuarter || utf8.RuneCountInString(ch.Symbol) > 40 {
			return fmt.Errorf("a chord has no length, or a symbol that is too long")
		}
	}
	at := 0
	for _, n := range b.Melody {
		mark := slices.ContainsFunc(markSigns, func(m struct {
			sign string
			mark NoteMark
		}) bool {
			return m.mark == n.Mark
		})
		switch {
		case n.Tick < at || n.Ticks <= 0 || n.Tick+n.Ticks > b.Ticks():
			return fmt.Errorf("a note of the melody is past its end, or over another")
		case n.MIDI < LowestNote || n.MIDI > HighestNote || n.Mark != Struck && !mark || utf8.RuneCountInString(n.Word) > maxLine:
			return fmt.Errorf("a note of the melody is none that can be played or sung")
		}
		at = n.Tick + n.Ticks
	}
	return nil
}
