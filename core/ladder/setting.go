package ladder

import (
	"slices"

	"arplin/core/difficulty"
	"arplin/core/song"
)

// setting is the bars of the stages of chords of a target on its song.
type Setting struct {
	Whole    difficulty.Task
	One, Two []song.Bar // nil where the song has no more than that
}

// settingOf puts the first chord alone, and the first two together.
func SettingOf(t difficulty.Task) Setting {
	if t.Order == nil {
		t = Begin(t, Beginning{})
	}
	s := Setting{Whole: t}
	if len(t.Order) < 2 {
		return s
	}
	bar := func(symbol string) song.Bar {
		return song.Bar{Changes: song.Share(t.Pattern.Meter, []string{symbol})}
	}
	first, second := t.Order[0], t.Order[1]
	s.One = []song.Bar{bar(first)}
	s.Two = []song.Bar{bar(first), bar(first), bar(second), bar(second)}
	return s
}

// task is what a step asks.
func (st Setting) Task(s Step) difficulty.Task {
	t := st.on(st.Whole, s)
	t.Pattern, t.Rest = s.Pattern, nil
	for _, part := range s.Parts {
		i := slices.IndexFunc(st.Whole.Rest, func(t difficulty.Task) bool { return slices.Equal(t.Sections, part.Sections) })
		if i >= 0 {
			rest := st.on(st.Whole.Rest[i], s)
			rest.Pattern = part.Pattern
			t.Rest = append(t.Rest, rest)
		}
	}
	return t
}

// on puts a task on the chords of a step, in its way and at its goal.
func (st Setting) on(t difficulty.Task, s Step) difficulty.Task {
	whole := t
	if s.Over == OneChord || s.Over == TwoChords || s.Over == TwoChordsABar {
		t.Played = nil
	}
	switch {
	case s.Over == OneChord && st.One != nil:
		t.Bars = st.One
		if symbol := ownChord(whole, s); symbol != "" {
			t.Bars = []song.Bar{{Changes: song.Share(t.Pattern.Meter, []string{symbol})}}
		}
	case s.Over == OneChord:
		if order := st.Whole.Sung(); len(order) > 0 {
			t.Bars = t.Bars[order[0].Bar : order[0].Bar+1]
		}
	case s.Over == TwoChords && st.Two != nil:
		t.Bars = st.Two
	case s.Over == TwoChordsABar && st.Two != nil:
		t.Bars = st.Two[1:3]
	case s.Over.Chords() > 0: // the bars of the song that sound with them
		n := min(s.Over.Chords(), len(st.Whole.Order))
		t.Played = slices.DeleteFunc(slices.Clone(t.Sung()), func(at difficulty.Sung) bool {
			return slices.ContainsFunc(t.Bars[at.Bar].Changes, func(ch song.Change) bool {
				c, err := ch.Chord()
				return err == nil && !slices.Contains(st.Whole.Order[:n], c.String())
			})
		})
	}
	t.Play, t.Tempo = s.Play, s.Goal(t.Tempo)
	return t
}

// ownChord is the chord on which one bar of a figure of several always falls in the song, where the
// others fall on other chords: a sweep on Em, the figure on Am. Empty where there is none.
func ownChord(t difficulty.Task, s Step) (symbol string) {
	n := len(t.Pattern.Bars)
	_, bar, ok := s.PartOf(t.Pattern)
	if n < 2 || len(s.Pattern.Bars) > 1 || !ok {
		return ""
	}
	chords := map[bool]map[string]bool{true: {}, false: {}} // of this bar, and of the others
	for _, at := range t.Sung() {
		for _, ch := range t.Bars[at.Bar].Changes {
			chords[at.Count%n == bar][ch.Symbol] = true
		}
	}
	if len(chords[true]) != 1 {
		return ""
	}
	for symbol = range chords[true] {
		if chords[false][symbol] || len(chords[false]) == 0 {
			return ""
		}
	}
	return symbol
}
