package arrange

import (
	"slices"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// StationID names a station for good.
type StationID string

// The stations that arrangements use by themselves.
const (
	Chords    StationID = "chords"
	TuneAlone StationID = "tune"
)

// Station is a place to stop at on the way from the chords to the tune over a walking bass.
type Station struct {
	ID         StationID
	Name, Says string
	Bass       Bass
	Tune       bool // the notes are struck
	Strum      bool // shapes are struck with the whole hand
	Marks      bool // slides and hammered notes are played as such
}

// Stations are the stations in order, each one thing more than the one before. Source of the
// order: common practice.
var Stations = []Station{
	{ID: Chords, Name: "the chords, once each", Says: "Strum each chord where it begins, and let it ring: this is the ground.", Strum: true},
	{ID: TuneAlone, Name: "the tune alone", Says: "Single notes on the thin strings. Sing along.", Bass: NoBass, Tune: true},
	{ID: "shapes", Name: "shapes that hold the tune", Says: "On each beat with a note strum the shape that has it on top, slowly. Some chords become others by it.", Bass: OnOne, Strum: true, Tune: true},
	{ID: "bass-on-one", Name: "the tune with the bass on one", Says: "The thumb strikes the root where a bar begins; the tune goes on above it.", Bass: OnOne, Tune: true},
	{ID: "pulse", Name: "the tune with a pulsing bass", Says: "The thumb on every beat, on one string: it does not wait for the tune.", Bass: Pulse, Tune: true},
	{ID: "alternating", Name: "the tune over the alternating bass", Says: "The thumb goes between its two strings. Notes that fall with it are joined to it; the others fall between.", Bass: Alternating, Tune: true},
	{ID: "marks", Name: "with its slides and hammered notes", Says: "The marks of the tune at last: a slide and a hammered note are not struck again.", Bass: Alternating, Tune: true, Marks: true},
}

// StationOf is a station of a tune by its id, and the last for one that it does not have.
func StationOf(bars []song.Bar, id StationID) Station {
	list := StationsOf(bars)
	if at := slices.IndexFunc(list, func(s Station) bool { return s.ID == id }); at >= 0 {
		return list[at]
	}
	return list[len(list)-1]
}

// StationsOf are the stations of a tune: the last only where it has marks.
func StationsOf(bars []song.Bar) []Station {
	marked := slices.ContainsFunc(bars, func(b song.Bar) bool {
		return slices.ContainsFunc(b.Melody, func(n song.MelodyNote) bool { return n.Mark == song.Slid || n.Mark == song.Hammered })
	})
	if marked {
		return Stations
	}
	return Stations[:len(Stations)-1]
}

// Played is a station on strings.
type Played struct {
	Grid int // slots a bar of the meter
	Bars []PlayedBar
	Left []Left
}

// PlayedBar is what both hands do in a bar.
type PlayedBar struct {
	Grips  []Grip
	Events []bind.Event // as if the bar were the first of a pattern
}

// Play puts a station on strings.
func (st Station) Play(t Task) Played {
	t.Bass = st.Bass
	if !st.Marks {
		t.Bars = struck(t.Bars)
	}
	p := Played{Grid: gridOf(t), Bars: make([]PlayedBar, len(t.Bars))}
	if !st.Tune {
		for i, bar := range t.Bars {
			for _, h := range bind.HeldIn(t.Instrument, bar, t.Shapes) {
				v := fretboard.Read(t.Instrument, h.Chord, h.Shape)
				p.Bars[i].Grips = append(p.Bars[i].Grips, Grip{Tick: h.From, Chord: h.Chord, Voicing: v})
				p.Bars[i].Events = append(p.Bars[i].Events, t.strum(p.Grid, h.From, h.Chord, h.Shape, fretboard.String(h.Shape.Strings()), 1))
			}
		}
		return t.late(p)
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
	return t.late(p)
}

// late puts what is struck in a pickup into the slots of the count: one beat in 4/4 is "4 and".
func (t Task) late(p Played) Played {
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

// appendStrum strikes a shape where a note falls on a beat; notes between are struck alone.
func appendStrum(events []bind.Event, t Task, grid int, bar Bar, s Stroke) []bind.Event {
	if !s.Melody {
		return events // the root is in the strum
	}
	for _, g := range slices.Backward(bar.Grips) {
		if g.Tick > s.Tick {
			continue
		}
		if s.Tick%t.Meter.BeatTicks() != 0 || g.Chord.IsZero() {
			break
		}
		e := t.strum(grid, s.Tick, g.Chord, g.Voicing.Shape, g.Voicing.Root, s.String)
		e.Word = s.Word
		return append(events, e)
	}
	return append(events, t.pluck(grid, bar.chordAt(s.Tick), s))
}

func (b Bar) chordAt(tick int) (c theory.Chord) {
	for _, g := range b.Grips {
		if g.Tick <= tick {
			c = g.Chord
		}
	}
	return c
}

// fingers of the right hand for a tune, by string. Source: fixed fingers, common practice.
var fingers = map[fretboard.String]pattern.Sign{1: pattern.Ring, 2: pattern.Middle, 3: pattern.Index}

func (t Task) pluck(grid int, c theory.Chord, s Stroke) bind.Event {
	sign := pattern.Thumb
	if s.Melody {
		var thin bool
		if sign, thin = fingers[s.String]; !thin {
			sign = pattern.Index
		}
	}
	return bind.Event{
		Slot: t.slot(grid, s.Tick), Tick: s.Tick, Kind: bind.Pluck, Finger: sign.String(), Stroke: pattern.Stroke{Sign: sign, Target: given(s.String)},
		Strings: []fretboard.String{s.String}, Frets: []fretboard.Fret{s.Fret}, Pitches: []theory.Pitch{t.spell(c, s.String, s.Fret)},
		Melody: s.Melody, Slurred: s.Mark == song.Slid || s.Mark == song.Hammered, Word: s.Word,
	}
}

// strum strikes a shape between two strings, the thick one first.
func (t Task) strum(grid, tick int, c theory.Chord, sh fretboard.Shape, from, to fretboard.String) bind.Event {
	e := bind.Event{Slot: t.slot(grid, tick), Tick: tick, Kind: bind.Strum, Direction: "down", Stroke: pattern.Stroke{Sign: pattern.Down}}
	for s := from; s >= to; s-- {
		if sh.Sounds(s) {
			e.Strings, e.Frets, e.Pitches = append(e.Strings, s), append(e.Frets, sh.At(s)), append(e.Pitches, t.spell(c, s, sh.At(s)))
		}
	}
	return e
}

func (t Task) spell(c theory.Chord, s fretboard.String, f fretboard.Fret) theory.Pitch {
	if c.IsZero() {
		return spell(t.Instrument.Open(s).MIDI() + int(f))
	}
	return fretboard.SpellFret(t.Instrument, c, s, f)
}

func given(s fretboard.String) pattern.Target {
	return pattern.Target{Kind: pattern.Given, Strings: pattern.Strings(int(s))}
}

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

// Level is how hard a station is, as a figure with explicit strings over the chords.
func (p Played) Level(t Task, sg song.Song, school bind.School, w difficulty.Weights) float64 {
	f := p.Figure(t.Meter)
	if f.Count() == 0 {
		return 1
	}
	return difficulty.Of(difficulty.NewTask(f, sg, t.Instrument, school, sg.Tempo), w).Level
}
