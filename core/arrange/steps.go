package arrange

import (
	"slices"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// Figure is what the right hand does over all the bars, as one figure: what a level is
// measured of.
func (p Played) Figure(m pattern.Meter) pattern.Pattern {
	f := pattern.Pattern{Meter: m}
	for _, bar := range p.Bars {
		slots := make(pattern.Bar, p.Grid)
		for _, e := range bar.Events {
			if e.Slot < p.Grid && !e.Slurred {
				slots[e.Slot].Strokes = append(slots[e.Slot].Strokes, e.Stroke)
			}
		}
		f.Bars = append(f.Bars, slots)
	}
	return f
}

// What it adds to a level where every note is held with a finger that stays down while the
// thumb goes on, and where some are slid to or hammered on. From memory.
const (
	costHeld = 0.8
	costSlur = 0.25
)

// Reading is how hard a station is: its figure on explicit strings over the chords, each held
// with the hardest of the shapes that the tune makes of it in a bar. That a finger falls with
// the thumb, or off the beat, is in the parts of the figure; that it stays down while the hand
// moves under it is added.
func (p Played) Reading(t Task, sg song.Song, school bind.School, w difficulty.Weights) difficulty.Reading {
	f := p.Figure(t.Meter)
	if f.Count() == 0 {
		return difficulty.Reading{Level: 1}
	}
	asked := difficulty.NewTask(f, p.heldSong(t, sg), t.Instrument, school, sg.Tempo)
	asked.Tune = p.alone()
	r := difficulty.Of(asked, w)
	more := costHeld * p.heldShare(t)
	if p.slurs() {
		more += costSlur
	}
	r.Level = min(10, r.Level+more)
	return r
}

func (p Played) slurs() bool {
	return slices.ContainsFunc(p.Bars, func(b PlayedBar) bool {
		return slices.ContainsFunc(b.Events, func(e played.Event) bool { return e.Slurred })
	})
}

// alone reports the tune with nothing under it.
func (p Played) alone() bool {
	return !slices.ContainsFunc(p.Bars, func(b PlayedBar) bool {
		return slices.ContainsFunc(b.Events, func(e played.Event) bool { return !e.Melody })
	})
}

// heldSong is the song with what the hand holds for the tune.
func (p Played) heldSong(t Task, sg song.Song) song.Song {
	sg = sg.Clone()
	alone, i := p.alone(), 0
	for s := range sg.Sections {
		for b := range sg.Sections[s].Bars {
			bar := &sg.Sections[s].Bars[b]
			if bar.Changes = p.Bars[i].Changes; alone { // nothing is held, and nothing changes
				bar.Changes = p.oneChord(t)
			}
			hardest := map[string]fretboard.Voicing{}
			for _, g := range p.Bars[i].Grips {
				name := g.Chord.String()
				if had, ok := hardest[name]; !g.Chord.IsZero() && (!ok || g.Voicing.Hold > had.Hold) {
					hardest[name] = g.Voicing
				}
			}
			for name, v := range hardest {
				bar.Shapes.Set(t.Instrument.ID, name, v.Shape.String())
			}
			i++
		}
	}
	return sg
}

// oneChord is the song's first chord for a whole bar.
func (p Played) oneChord(t Task) []song.Change {
	for _, bar := range p.Bars {
		if len(bar.Changes) > 0 {
			return song.Share(t.Meter, []string{bar.Changes[0].Symbol})
		}
	}
	return nil
}

// heldShare is the share of the notes of the tune that a finger holds while something else is
// struck under them.
func (p Played) heldShare(t Task) float64 {
	notes, held := 0, 0
	for i, bar := range p.Bars {
		for _, n := range t.Bars[i].Melody {
			at := slices.IndexFunc(bar.Events, func(e played.Event) bool { return e.Melody && e.Tick == n.Tick })
			if at < 0 {
				continue
			}
			notes++
			under := func(e played.Event) bool { return !e.Melody && e.Tick > n.Tick && e.Tick < n.Tick+n.Ticks }
			if bar.Events[at].Frets[0] > 0 && slices.ContainsFunc(bar.Events, under) {
				held++
			}
		}
	}
	return float64(held) / float64(max(1, notes))
}

// Shown is the bar, from 0, in which most is other than at the station before: what a step shows
// of the whole. Where nothing is, or none was before, it is that in which most is struck.
func (p Played) Shown(before Played) int {
	most, at := 0, -1
	for pass := range 2 {
		for i, bar := range p.Bars {
			n := 0
			for _, e := range bar.Events {
				if pass == 1 || i >= len(before.Bars) || !slices.ContainsFunc(before.Bars[i].Events, func(o played.Event) bool { return alike(e, o) }) {
					n++
				}
			}
			if n > most {
				most, at = n, i
			}
		}
		if at >= 0 {
			return at
		}
	}
	return 0
}

// alike reports the same strings struck at the same time in the same way.
func alike(a, b played.Event) bool {
	return a.Tick == b.Tick && a.Kind == b.Kind && a.Slurred == b.Slurred && slices.Equal(a.Strings, b.Strings) && slices.Equal(a.Frets, b.Frets)
}

// Steps are the stations of a tune as steps of a ladder, with their levels, and what is played
// at each. A station that is no harder than the one before stays: it is another thing to hear.
func (t Task) Steps(sg song.Song, school bind.School, w difficulty.Weights) (steps []ladder.Step, played []Played) {
	var before Played
	for _, st := range t.Stations() {
		p := st.Play(t)
		shown := p.Figure(t.Meter)
		if at := p.Shown(before); at < len(shown.Bars) {
			shown.Bars = shown.Bars[at : at+1]
		}
		before = p
		steps = append(steps, ladder.Step{
			Pattern: shown, Over: ladder.AllChords, Station: st.ID, Level: p.Reading(t, sg, school, w).Level,
		})
		played = append(played, p)
	}
	steps, _ = ladder.Numbered(steps, 1)
	return steps, played
}
