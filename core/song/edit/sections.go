package edit

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/say"
	"arplin/core/song"
)

// Edits of one section.
type (
	// SetTimes says how often a section is played.
	SetTimes struct {
		Section song.SectionID
		Times   int
	}
	// CopySection writes a section again after itself.
	CopySection struct{ Section song.SectionID }
	// RenameSection gives a section another name.
	RenameSection struct {
		Section song.SectionID
		Name    string
	}
	// DeleteSection takes a section out.
	DeleteSection struct{ Section song.SectionID }
)

func section(s *song.Song, id song.SectionID) (*song.Section, error) {
	i := s.SectionAt(id)
	if i < 0 {
		return nil, fmt.Errorf("that section is not in the song any more")
	}
	return &s.Sections[i], nil
}

func (e SetTimes) Apply(s *song.Song) (say.Line, error) {
	sec, err := section(s, e.Section)
	if err != nil {
		return say.Line{}, err
	}
	if e.Times < 1 || e.Times > song.MaxTimes {
		return say.Line{}, fmt.Errorf("a section is played 1 to %d times", song.MaxTimes)
	}
	sec.Times = e.Times
	return say.Of(sectionTimes, sec.Name, e.Times), nil
}

func (e CopySection) Apply(s *song.Song) (say.Line, error) {
	sec, err := section(s, e.Section)
	if err != nil {
		return say.Line{}, err
	}
	again := *sec
	again.ID, again.Bars = song.SectionID(s.Fresh()), song.CloneBars(sec.Bars)
	for i := range again.Bars {
		again.Bars[i].ID = song.BarID(s.Fresh())
	}
	s.Sections = slices.Insert(s.Sections, s.SectionAt(e.Section)+1, again)
	return say.Of(sectionCopied, again.Name), nil
}

func (e RenameSection) Apply(s *song.Song) (say.Line, error) {
	sec, err := section(s, e.Section)
	if err != nil {
		return say.Line{}, err
	}
	name := strings.Join(strings.Fields(e.Name), " ")
	if name == "" || len([]rune(name)) > song.MaxSectionName {
		return say.Line{}, fmt.Errorf("a section needs a name of up to %d characters", song.MaxSectionName)
	}
	sec.Name = name
	return say.Of(sectionRenamed, name), nil
}

func (e DeleteSection) Apply(s *song.Song) (say.Line, error) {
	sec, err := section(s, e.Section)
	if err != nil {
		return say.Line{}, err
	}
	if len(s.Bars()) == len(sec.Bars) { // other sections may be without bars
		return say.Line{}, fmt.Errorf("a song keeps at least one section with bars")
	}
	name, at := sec.Name, s.SectionAt(e.Section)
	for i := len(sec.Bars) - 1; i >= 0; i-- {
		keepNotes(s, sec.Bars[i].Notes, sec.ID, len(sec.Bars))
	}
	s.Sections = slices.Delete(s.Sections, at, at+1)
	return say.Of(sectionDeleted, name), nil
}
