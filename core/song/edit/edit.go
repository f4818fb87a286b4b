package edit

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
)

// Edits of one bar.
type (
	// SetBar gives a bar chords, as ParseBar reads them, and words.
	SetBar struct {
		Bar           song.BarID
		Chords, Words string
	}
	// SplitBar makes two bars of half the time each.
	SplitBar struct{ Bar song.BarID }
	// JoinBar joins a bar with the one after it; each chord takes half its time.
	JoinBar struct{ Bar song.BarID }
	// InsertBar puts a bar after this one, with its last chord.
	InsertBar struct{ After song.BarID }
	// DeleteBar takes a bar out.
	DeleteBar struct{ Bar song.BarID }
	// SetRole says what is special about a bar.
	SetRole struct {
		Bar  song.BarID
		Role song.Role
	}
	// SetEnding has a bar played in one pass only; 0 is always.
	SetEnding struct {
		Bar    song.BarID
		Ending int
	}
)

// place finds a bar with the words by which it is called.
func place(s *song.Song, id song.BarID) (sec *song.Section, at int, err error) {
	i, j := s.BarAt(id)
	if i < 0 {
		return nil, 0, fmt.Errorf("that bar is not in the song any more")
	}
	return &s.Sections[i], j, nil
}

func (e SetBar) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	changes, err := song.ParseBar(e.Chords, s.MeterOf(sec.Bars[at]))
	if err != nil {
		return say.Line{}, err
	}
	sec.Bars[at].Changes, sec.Bars[at].Words = changes, strings.Join(strings.Fields(e.Words), " ")
	return say.Of(barChanged, at+1, sec.Name), nil
}

func (e SplitBar) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	first, second := splitBar(sec.Bars[at], s.MeterOf(sec.Bars[at]))
	second.ID = song.BarID(s.Fresh())
	sec.Bars = slices.Replace(sec.Bars, at, at+1, first, second)
	return say.Of(barSplit, at+1, sec.Name), nil
}

func (e JoinBar) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if at+1 >= len(sec.Bars) {
		return say.Line{}, fmt.Errorf("there is no bar after it to join")
	}
	sec.Bars = slices.Replace(sec.Bars, at, at+2, joinBars(sec.Bars[at], sec.Bars[at+1], s.MeterOf(sec.Bars[at])))
	return say.Of(barJoined, at+1, sec.Name), nil
}

func (e InsertBar) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.After)
	if err != nil {
		return say.Line{}, err
	}
	fresh := song.Bar{ID: song.BarID(s.Fresh()), Meter: sec.Bars[at].Meter}
	if before := sec.Bars[at].Changes; len(before) > 0 {
		fresh.Changes = []song.Change{{Symbol: before[len(before)-1].Symbol, Ticks: s.MeterOf(fresh).BarTicks()}}
	}
	sec.Bars = slices.Insert(sec.Bars, at+1, fresh)
	return say.Of(barInserted, at+1, sec.Name), nil
}

func (e DeleteBar) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if len(s.Bars()) == 1 {
		return say.Line{}, fmt.Errorf("a song keeps at least one bar")
	}
	d := say.Of(barDeleted, at+1, sec.Name)
	keepNotes(s, sec.Bars[at].Notes, sec.ID, at+1)
	sec.Bars = slices.Delete(sec.Bars, at, at+1)
	if len(sec.Bars) == 0 {
		i := s.SectionAt(sec.ID)
		s.Sections = slices.Delete(s.Sections, i, i+1)
	}
	return d, nil
}

func (e SetRole) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	for _, r := range song.Roles {
		if r.Role == e.Role {
			sec.Bars[at].Role = r.Role
			return say.Of(barMarked, at+1, sec.Name), nil
		}
	}
	return say.Line{}, fmt.Errorf("%q is not a role of a bar", e.Role)
}

func (e SetEnding) Apply(s *song.Song) (say.Line, error) {
	sec, at, err := place(s, e.Bar)
	if err != nil {
		return say.Line{}, err
	}
	if e.Ending < 0 || e.Ending > song.MaxEnding {
		return say.Line{}, fmt.Errorf("an ending is the first, the second, the third or none")
	}
	sec.Bars[at].Ending = e.Ending
	return say.Of(barEnding, at+1, sec.Name), nil
}

// splitBar gives each half of a bar a bar of its own; one chord is played in both.
func splitBar(b song.Bar, m pattern.Meter) (first, second song.Bar) {
	words := strings.Fields(b.Words)
	tune := stretched(b.Melody, 2, 1)
	first, second = b, song.Bar{Ending: b.Ending, Meter: b.Meter, Shapes: b.Shapes.Clone()}
	first.Words = strings.Join(words[:(len(words)+1)/2], " ")
	second.Words = strings.Join(words[(len(words)+1)/2:], " ")
	first.Melody, second.Melody = song.Within(slices.Clone(tune), m.BarTicks()), after(tune, m.BarTicks())
	if len(b.Changes) < 2 {
		second.Changes = slices.Clone(b.Changes)
		return first, second
	}
	half := (len(b.Changes) + 1) / 2
	first.Changes, second.Changes = song.Fill(b.Changes[:half], m), song.Fill(b.Changes[half:], m)
	return first, second
}

func joinBars(a, b song.Bar, m pattern.Meter) song.Bar {
	var merged []song.Change
	for _, ch := range slices.Concat(a.Changes, b.Changes) {
		if n := len(merged); n > 0 && merged[n-1].Symbol == ch.Symbol {
			merged[n-1].Ticks += ch.Ticks
			continue
		}
		merged = append(merged, ch)
	}
	a.Changes = song.Fill(merged, m)
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
