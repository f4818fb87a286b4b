package arrange

import (
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// Station is how a station of a tune is played.
type Station struct {
	station.Words
	Bass  Bass
	Tune  bool // the notes are struck
	Strum bool // shapes are struck with the whole hand
	Marks bool // slides and hammered notes are played as such
	Late  bool // the finger that makes a seventh comes after the bass
	Ends  bool // the end of the song is led to its last chord, or back to the beginning
}

// ways are the stations in the order in which core/ladder names them, each one thing more than the one before.
var ways = []struct {
	of station.ID
	Station
}{
	{station.ChordsOnce, Station{Strum: true}},
	{station.TuneAlone, Station{Bass: NoBass, Tune: true}},
	{station.TuneShapes, Station{Bass: OnOne, Strum: true, Tune: true}},
	{station.BassOnOne, Station{Bass: OnOne, Tune: true}},
	{station.PulsingBass, Station{Bass: Pulse, Tune: true}},
	{station.WalkingBass, Station{Bass: Alternating, Tune: true}},
	{station.TuneMarks, Station{Bass: Alternating, Tune: true, Marks: true}},
	{station.LateFingers, Station{Bass: Alternating, Tune: true, Marks: true, Late: true}},
	{station.WalkDown, Station{Bass: Alternating, Tune: true, Marks: true, Late: true, Ends: true}},
	{station.Turnaround, Station{Bass: Alternating, Tune: true, Marks: true, Late: true, Ends: true}},
}

// ByID is how a station is played.
func ByID(id station.ID) (Station, bool) {
	for _, w := range ways {
		if w.of == id {
			st := w.Station
			st.Words = station.WordsOf(id)
			return st, true
		}
	}
	return Station{}, false
}

// Stations are those of a tune in order: that with marks only where it has some, late fingers
// where a seventh has one, and the way in which it ends where the chords let it.
func (t Task) Stations() (list []Station) {
	for _, w := range ways {
		if t.has(w.of) {
			st, _ := ByID(w.of)
			st.Words = station.WordsOn(w.of, t.Instrument.Drones())
			list = append(list, st)
		}
	}
	return list
}

func (t Task) has(id station.ID) bool {
	switch id {
	case station.TuneMarks:
		return slices.ContainsFunc(t.Bars, func(b song.Bar) bool {
			return slices.ContainsFunc(b.Melody, func(n song.MelodyNote) bool { return n.Mark == song.Slid || n.Mark == song.Hammered })
		})
	case station.LateFingers:
		return t.someLate()
	case station.WalkDown:
		_, ok := t.walksDown()
		return ok
	case station.Turnaround:
		_, ok := t.turns()
		return ok
	}
	return true
}

// Station is a station of the tune by its id, and the last for one that it does not have.
func (t Task) Station(id station.ID) Station {
	list := t.Stations()
	if at := slices.IndexFunc(list, func(s Station) bool { return s.ID == id }); at >= 0 {
		return list[at]
	}
	return list[len(list)-1]
}

// Played is a station on strings.
type Played struct {
	Grid int // slots a bar of the meter
	Bars []PlayedBar
	Left []Left
}

// PlayedBar is what both hands do in a bar.
type PlayedBar struct {
	Changes []song.Change // the chords as they are played
	Grips   []Grip
	Events  []played.Event // as if the bar were the first of a pattern
}

// Play puts a station on strings.
func (st Station) Play(t Task) Played {
	t.Bass = st.Bass
	if !st.Marks {
		t.Bars = struck(t.Bars)
	}
	if st.Ends {
		t = t.led()
	}
	p := Played{Grid: gridOf(t), Bars: make([]PlayedBar, len(t.Bars))}
	for i, bar := range t.Bars {
		p.Bars[i].Changes = bar.Changes
	}
	if !st.Tune {
		for i, bar := range t.Bars {
			for _, h := range bind.HeldIn(t.Instrument, bar, t.Shapes) {
				v := fretboard.Read(t.Instrument, h.Chord, h.Shape)
				p.Bars[i].Grips = append(p.Bars[i].Grips, Grip{Tick: h.From, Chord: h.Chord, Voicing: v})
				p.Bars[i].Events = append(p.Bars[i].Events, t.strum(p.Grid, h.From, h.Chord, h.Shape, fretboard.String(h.Shape.Strings()), 1))
			}
		}
		return t.inCount(p)
	}
	placed := Place(t)
	p.Left = placed.Left
	for i, bar := range placed.Bars {
		p.Bars[i].Grips = bar.Grips
		for _, s := range bar.Strokes {
			if st.Strum {
				p.Bars[i].Events = appendStrum(p.Bars[i].Events, t, p.Grid, bar, s)
				continue
			}
			p.Bars[i].Events = append(p.Bars[i].Events, t.pluck(p.Grid, bar.chordAt(s.Tick), s))
		}
	}
	if st.Late {
		t.addLate(&p)
	}
	return t.inCount(p)
}

// inCount puts what is struck in a pickup into the slots of the count: one beat in 4/4 is "4 and".
func (t Task) inCount(p Played) Played {
	for i, bar := range t.Bars {
		if bar.Role != song.Pickup {
			continue
		}
		off := p.Grid - t.slot(p.Grid, bar.Ticks())
		for k := range p.Bars[i].Events {
			p.Bars[i].Events[k].Slot += off
		}
	}
	return p
}

// Swung delays every second slot of a pair by a third, as core/pattern does; a meter whose beat
// has three parts, or a grid that has no pairs, stays as it is.
func (p Played) Swung(m pattern.Meter) Played {
	if n := m.SlotsPerBeat(p.Grid); m.Compound() || n != 2 && n != 4 {
		return p
	}
	slot := m.BarTicks() / p.Grid
	bars := slices.Clone(p.Bars)
	for i := range bars {
		bars[i].Events = slices.Clone(bars[i].Events)
		for k, e := range bars[i].Events {
			if e.Slot%2 == 1 {
				bars[i].Events[k].Tick += slot / 3
			}
		}
	}
	p.Bars = bars
	return p
}

// struck is a tune all of whose notes are struck; what is tied stays tied.
func struck(bars []song.Bar) []song.Bar {
	out := slices.Clone(bars)
	for i := range out {
		out[i].Melody = slices.Clone(out[i].Melody)
		for k, n := range out[i].Melody {
			if n.Mark != song.Tied {
				out[i].Melody[k].Mark = song.Struck
			}
		}
	}
	return out
}

// gridOf is the coarsest grid on whose slots all of a tune begins, with eighths at least.
func gridOf(t Task) int {
	grids := t.Meter.Grids()
	for _, grid := range grids[min(1, len(grids)-1):] {
		slot := t.Meter.BarTicks() / grid
		off := slices.ContainsFunc(t.Bars, func(b song.Bar) bool {
			return slices.ContainsFunc(b.Melody, func(n song.MelodyNote) bool { return n.Tick%slot != 0 })
		})
		if !off {
			return grid
		}
	}
	return grids[len(grids)-1]
}

func (t Task) slot(grid, tick int) int { return tick * grid / t.Meter.BarTicks() }
