package edit

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
)

// Edits of what a sheet says beside its chords, and of the song's own data.
type (
	// SetNotes writes the lines before a bar, or, for no bar, after the last one.
	SetNotes struct {
		Bar   song.BarID
		Lines string
	}
	// SetBarMeter gives a bar a meter of its own, in which its chords keep their
	// shares; the song's takes it away.
	SetBarMeter struct {
		Bar   song.BarID
		Meter pattern.Meter
	}
	// SetTags gives the song the words by which it is found.
	SetTags struct{ Tags []string }
	// SetTitle calls the song something else.
	SetTitle struct{ Title string }
	// SayKey says in which key the song is; nothing is transposed. The zero key
	// leaves it to the chords.
	SayKey struct{ Key theory.Key }
	// MoveSection puts a section before the one in front of it (-1) or after the
	// next one (+1).
	MoveSection struct {
		Section song.SectionID
		By      int
	}
)

// maxNotes is how many such lines stand before a bar at most.
const maxNotes = 400

func (e SetNotes) Apply(s *song.Song) (say.Line, error) {
	var lines []string
	for _, line := range strings.Split(e.Lines, "\n") {
		if line = strings.TrimRight(line, " \t\r"); strings.TrimSpace(line) == "" {
			continue
		}
		if len([]rune(line)) > song.MaxNote {
			return say.Line{}, fmt.Errorf("a line of a note has up to %d characters", song.MaxNote)
		}
		lines = append(lines, line)
	}
	if len(lines) > maxNotes {
		return say.Line{}, fmt.Errorf("a note has up to %d lines", maxNotes)
	}
	if e.Bar == 0 {
		s.Notes = lines
		return say.Of(notesAtEnd), nil
	}
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	sec.Bars[at].Notes = lines
	return say.Of(notesSet, at+1, sec.Name), nil
}

// keepNotes hands the notes of a bar that goes on to the one that stands there
// then, or to the song's end.
func keepNotes(s *song.Song, notes []string, section song.SectionID, at int) {
	for i := s.SectionAt(section); i >= 0 && i < len(s.Sections); i, at = i+1, 0 {
		if bars := s.Sections[i].Bars; at < len(bars) {
			bars[at].Notes = slices.Concat(notes, bars[at].Notes)
			return
		}
	}
	s.Notes = slices.Concat(notes, s.Notes)
}

func (e SetBarMeter) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	bar := &sec.Bars[at]
	if bar.Ticks() == s.MeterOf(*bar).BarTicks() {
		bar.Changes = song.Fill(bar.Changes, e.Meter)
	}
	if bar.Meter = e.Meter; e.Meter == s.Meter {
		bar.Meter = pattern.Meter{}
	}
	return say.Of(barMeter, at+1, sec.Name, e.Meter), nil
}

func (e SetTags) Apply(s *song.Song) (say.Line, error) {
	var tags []string
	for _, tag := range e.Tags {
		tag = strings.ToLower(strings.Join(strings.Fields(tag), " "))
		if tag == "" || slices.Contains(tags, tag) {
			continue
		}
		if utf8.RuneCountInString(tag) > song.MaxTag {
			return say.Line{}, fmt.Errorf("a tag has at most %d characters", song.MaxTag)
		}
		tags = append(tags, tag)
	}
	if len(tags) > song.MaxTags {
		return say.Line{}, fmt.Errorf("a song has at most %d tags", song.MaxTags)
	}
	if s.Tags = tags; len(tags) == 0 {
		return say.Of(tagsGone), nil
	}
	return say.Of(tagsSet, strings.Join(tags, ", ")), nil
}

func (e SetTitle) Apply(s *song.Song) (say.Line, error) {
	title := strings.Join(strings.Fields(e.Title), " ")
	if title == "" || len([]rune(title)) > song.MaxTitle {
		return say.Line{}, fmt.Errorf("a title has 1 to %d characters", song.MaxTitle)
	}
	s.Title = title
	return say.Of(titled, title), nil
}

func (e SayKey) Apply(s *song.Song) (say.Line, error) {
	if e.Key == (theory.Key{}) {
		s.Key = ""
		return say.Of(keyLeft), nil
	}
	s.Key = e.Key.Symbol()
	return say.Of(keySaid, e.Key), nil
}

func (e MoveSection) Apply(s *song.Song) (say.Line, error) {
	from := s.SectionAt(e.Section)
	if from < 0 {
		return say.Line{}, fmt.Errorf("that section is not in the song any more")
	}
	to := from + e.By
	if e.By != -1 && e.By != 1 || to < 0 || to >= len(s.Sections) {
		return say.Line{}, fmt.Errorf("there is no place further on")
	}
	s.Sections[from], s.Sections[to] = s.Sections[to], s.Sections[from]
	return say.Of(sectionMoved, s.Sections[to].Name), nil
}
