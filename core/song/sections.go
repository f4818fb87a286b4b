package song

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/say"
)

// Edits of one section.
type (
	// SetTimes says how often a section is played.
	SetTimes struct {
		Section SectionID
		Times   int
	}
	// CopySection writes a section again after itself.
	CopySection struct{ Section SectionID }
	// RenameSection gives a section another name.
	RenameSection struct {
		Section SectionID
		Name    string
	}
	// DeleteSection takes a section out.
	DeleteSection struct{ Section SectionID }
)

const MaxTimes = 8

// Bounds of the names of a section and of its pattern, in letters.
const (
	MaxSectionName = 40
	MaxPatternName = 120
)

func (s *Song) section(id SectionID) (*Section, error) {
	i := s.SectionAt(id)
	if i < 0 {
		return nil, fmt.Errorf("that section is not in the song any more")
	}
	return &s.Sections[i], nil
}

func (e SetTimes) apply(s *Song) (say.Line, error) {
	sec, err := s.section(e.Section)
	if err != nil {
		return say.Line{}, err
	}
	if e.Times < 1 || e.Times > MaxTimes {
		return say.Line{}, fmt.Errorf("a section is played 1 to %d times", MaxTimes)
	}
	sec.Times = e.Times
	return say.Of(sectionTimes, sec.Name, e.Times), nil
}

func (e CopySection) apply(s *Song) (say.Line, error) {
	sec, err := s.section(e.Section)
	if err != nil {
		return say.Line{}, err
	}
	again := *sec
	again.ID, again.Bars = SectionID(s.fresh()), cloneBars(sec.Bars)
	for i := range again.Bars {
		again.Bars[i].ID = BarID(s.fresh())
	}
	s.Sections = slices.Insert(s.Sections, s.SectionAt(e.Section)+1, again)
	return say.Of(sectionCopied, again.Name), nil
}

func (e RenameSection) apply(s *Song) (say.Line, error) {
	sec, err := s.section(e.Section)
	if err != nil {
		return say.Line{}, err
	}
	name := strings.Join(strings.Fields(e.Name), " ")
	if name == "" || len([]rune(name)) > MaxSectionName {
		return say.Line{}, fmt.Errorf("a section needs a name of up to %d letters", MaxSectionName)
	}
	sec.Name = name
	return say.Of(sectionRenamed, name), nil
}

func (e DeleteSection) apply(s *Song) (say.Line, error) {
	sec, err := s.section(e.Section)
	if err != nil {
		return say.Line{}, err
	}
	if len(s.Bars()) == len(sec.Bars) { // other sections may be without bars
		return say.Line{}, fmt.Errorf("a song keeps at least one section with bars")
	}
	name, at := sec.Name, s.SectionAt(e.Section)
	for i := len(sec.Bars) - 1; i >= 0; i-- {
		s.keepNotes(sec.Bars[i].Notes, sec.ID, len(sec.Bars))
	}
	s.Sections = slices.Delete(s.Sections, at, at+1)
	return say.Of(sectionDeleted, name), nil
}
