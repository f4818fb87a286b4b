package arrange

import (
	"arplin/core/bind"
	"arplin/core/pattern"
	"arplin/core/played"
)

// Line is a station as it is played on a song, with the chords as it plays them. A station has no
// figure that goes round: the one of its bars is the grid on which they lie, with the feel that it
// is given.
func (st Station) Line(t Task, o bind.On, feel func(pattern.Pattern) pattern.Pattern) played.Line {
	l, on := o.Bare(), st.Play(t)
	grid := feel(pattern.Pattern{Meter: t.Meter, Bars: []pattern.Bar{make(pattern.Bar, on.Grid)}})
	if grid.Swing {
		on = on.Swung(t.Meter)
	}
	l.Song, l.Fingered = l.Song.Clone(), l.Fingered.Clone()
	for s := range l.Fingered.Sections {
		for b := range l.Fingered.Sections[s].Bars {
			plays := on.Bars[len(l.Bars)]
			bar := played.Bar{Grid: on.Grid, Figure: grid, Events: plays.Events}
			for _, g := range plays.Grips {
				if !g.Chord.IsZero() {
					bar.Held = append(bar.Held, played.Held{From: g.Tick, Voicing: g.Voicing})
				}
			}
			l.Fingered.Sections[s].Bars[b].Changes = plays.Changes
			if l.Capo == 0 {
				l.Song.Sections[s].Bars[b].Changes = plays.Changes
			}
			l.Bars = append(l.Bars, bar)
		}
	}
	return l
}
