package song

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/pattern"
	"arplin/core/say"
)

// Edit is one thing that a teacher does to a song; each kind is a type of its
// own in this package. It works on a copy.
type Edit interface {
	apply(s *Song) (say.Line, error)
}

// Apply carries out an edit on a copy and returns what was done. An edit that
// makes no sense is an error; a bar that does not add up is not.
func (s Song) Apply(e Edit) (Song, say.Line, error) {
	s = s.Clone()
	d, err := e.apply(&s)
	for i := range s.Sections {
		for j, b := range s.Sections[i].Bars {
			s.Sections[i].Bars[j].Melody = within(b.Melody, b.Ticks())
		}
	}
	if n := len(s.Bars()); err == nil && n > MaxBars {
		return s, d, fmt.Errorf("a song has at most %d bars, and that would make %d", MaxBars, n)
	}
	return s, d, err
}

// Edits of one bar.
type (
	// SetBar gives a bar chords, as ParseBar reads them, and words.
	SetBar struct {
		Bar           BarID
		Chords, Words string
	}
	// SplitBar makes two bars of half the time each.
	SplitBar struct{ Bar BarID }
	// JoinBar joins a bar with the one after it; each chord takes half its time.
	JoinBar struct{ Bar BarID }
	// InsertBar puts a bar after this one, with its last chord.
	InsertBar struct{ After BarID }
	// DeleteBar takes a bar out.
	DeleteBar struct{ Bar BarID }
	// SetRole says what is special about a bar.
	SetRole struct {
		Bar  BarID
		Role Role
	}
	// SetEnding has a bar played in one pass only; 0 is always.
	SetEnding struct {
		Bar    BarID
		Ending int
	}
)

// place finds a bar with the words by which it is called.
func (s *Song) place(id BarID) (sec *Section, at int, err error) {
	i, j := s.BarAt(id)
	if i < 0 {
		return nil, 0, fmt.Errorf("that bar is not in the song any more")
	}
	return &s.Sections[i], j, nil
}

func (e SetBar) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	changes, err := ParseBar(e.Chords, s.MeterOf(sec.Bars[at]))
	if err != nil {
		return say.Line{}, err
	}
	sec.Bars[at].Changes, sec.Bars[at].Words = changes, strings.Join(strings.Fields(e.Words), " ")
	return say.Of(barChanged, at+1, sec.Name), nil
}

func (e SplitBar) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	first, second := splitBar(sec.Bars[at], s.MeterOf(sec.Bars[at]))
	second.ID = BarID(s.fresh())
	sec.Bars = slices.Replace(sec.Bars, at, at+1, first, second)
	return say.Of(barSplit, at+1, sec.Name), nil
}

func (e JoinBar) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if at+1 >= len(sec.Bars) {
		return say.Line{}, fmt.Errorf("there is no bar after it to join")
	}
	sec.Bars = slices.Replace(sec.Bars, at, at+2, joinBars(sec.Bars[at], sec.Bars[at+1], s.MeterOf(sec.Bars[at])))
	return say.Of(barJoined, at+1, sec.Name), nil
}

func (e InsertBar) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.After)
	if err != nil {
		return say.Line{}, err
	}
	fresh := Bar{ID: BarID(s.fresh()), Meter: sec.Bars[at].Meter}
	if before := sec.Bars[at].Changes; len(before) > 0 {
		fresh.Changes = []Change{{before[len(before)-1].Symbol, s.MeterOf(fresh).BarTicks()}}
	}
	sec.Bars = slices.Insert(sec.Bars, at+1, fresh)
	return say.Of(barInserted, at+1, sec.Name), nil
}

func (e DeleteBar) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if len(s.Bars()) == 1 {
		return say.Line{}, fmt.Errorf("a song keeps at least one bar")
	}
	d := say.Of(barDeleted, at+1, sec.Name)
	s.keepNotes(sec.Bars[at].Notes, sec.ID, at+1)
	sec.Bars = slices.Delete(sec.Bars, at, at+1)
	if len(sec.Bars) == 0 {
		i := s.SectionAt(sec.ID)
		s.Sections = slices.Delete(s.Sections, i, i+1)
	}
	return d, nil
}

func (e SetRole) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	for _, r := range Roles {
		if r.Role == e.Role {
			sec.Bars[at].Role = r.Role
			return say.Of(barMarked, at+1, sec.Name), nil
		}
	}
	return say.Line{}, fmt.Errorf("%q is not a role of a bar", e.Role)
}

// MaxEnding is the last ending that a bar can have.
const MaxEnding = 3

func (e SetEnding) apply(s *Song) (say.Line, error) {
	sec, at, err := s.place(e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if e.Ending < 0 || e.Ending > MaxEnding {
		return say.Line{}, fmt.Errorf("an ending is the first, the second, the third or none")
	}
	sec.Bars[at].Ending = e.Ending
	return say.Of(barEnding, at+1, sec.Name), nil
}

// splitBar gives each half of a bar a bar of its own; one chord is played in both.
func splitBar(b Bar, m pattern.Meter) (first, second Bar) {
	words := strings.Fields(b.Words)
	tune := stretched(b.Melody, 2, 1)
	first, second = b, Bar{Ending: b.Ending, Meter: b.Meter, Shapes: b.Shapes.clone()}
	first.Words = strings.Join(words[:(len(words)+1)/2], " ")
	second.Words = strings.Join(words[(len(words)+1)/2:], " ")
	first.Melody, second.Melody = within(slices.Clone(tune), m.BarTicks()), after(tune, m.BarTicks())
	if len(b.Changes) < 2 {
		second.Changes = slices.Clone(b.Changes)
		return first, second
	}
	half := (len(b.Changes) + 1) / 2
	first.Changes, second.Changes = Fill(b.Changes[:half], m), Fill(b.Changes[half:], m)
	return first, second
}

// Fill stretches chords to a bar, each keeping its share.
func Fill(changes []Change, m pattern.Meter) []Change {
	total := Bar{Changes: changes}.Ticks()
	out := make([]Change, len(changes))
	sum := 0
	for i, ch := range changes {
		from := m.BarTicks() * sum / max(1, total)
		sum += ch.Ticks
		out[i] = Change{ch.Symbol, m.BarTicks()*sum/max(1, total) - from}
	}
	return out
}

func joinBars(a, b Bar, m pattern.Meter) Bar {
	var merged []Change
	for _, ch := range slices.Concat(a.Changes, b.Changes) {
		if n := len(merged); n > 0 && merged[n-1].Symbol == ch.Symbol {
			merged[n-1].Ticks += ch.Ticks
			continue
		}
		merged = append(merged, ch)
	}
	a.Changes = Fill(merged, m)
	a.Words = strings.TrimSpace(a.Words + " " + b.Words)
	a.Melody = stretched(slices.Concat(a.Melody, later(b.Melody, m.BarTicks())), 1, 2)
	a.Notes = slices.Concat(a.Notes, b.Notes)
	for ins, chosen := range b.Shapes {
		for chord, text := range chosen {
			if _, has := a.Shapes[ins][chord]; !has {
				a.Shapes.Set(ins, chord, text)
			}
		}
	}
	return a
}

// Clone returns a deep copy.
func (s Song) Clone() Song {
	sections := make([]Section, len(s.Sections))
	for i, sec := range s.Sections {
		sections[i] = sec
		sections[i].Bars = cloneBars(sec.Bars)
	}
	s.Sections = sections
	s.Notes = slices.Clone(s.Notes)
	capo := map[string]int{}
	for k, v := range s.Capo {
		capo[k] = v
	}
	s.Capo = capo
	s.Shapes = s.Shapes.clone()
	return s
}

func cloneBars(bars []Bar) []Bar {
	out := make([]Bar, len(bars))
	for i, b := range bars {
		out[i] = b
		out[i].Changes, out[i].Notes, out[i].Shapes, out[i].Melody = slices.Clone(b.Changes), slices.Clone(b.Notes), b.Shapes.clone(), slices.Clone(b.Melody)
	}
	return out
}
