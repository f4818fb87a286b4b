package songs

import (
	"context"
	"fmt"
	"math"

	"arplin/core/arrange"
	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder/station"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// MelodyAsk is what of a song's tune is looked at.
type MelodyAsk struct {
	Instrument string
	Station    station.ID // none for the last
}

// Melody is the tune of a song on an instrument, with the stations on the way to it.
type Melody struct {
	Song        store.Song
	Instruments []fretboard.Instrument
	Instrument  fretboard.Instrument
	Stations    []StationView
	Station     StationView // the one that is shown
	Sections    []MelodySection
	Left        []string // what could not be placed, and the nearest way
	Capo        int
	Tempos      bpm.Tempos
	Slot        int // ticks of a slot of the strips
}

// StationView is a station with its level.
type StationView struct {
	arrange.Station
	Number int
	Level  string
	On     bool
}

// MelodySection is a section with its tune as it is typed.
type MelodySection struct {
	ID   song.SectionID
	Name string
	Text string
	Bars []MelodyBar
}

// MelodyBar is a bar with what both hands do.
type MelodyBar struct {
	ID      song.BarID
	Number  int
	Chords  string
	Becomes []Becomes
	Strip   draw.SVG
	Notes   []MelodyNote
	Ticks   int // how long it is
	Late    int // slots of the count before it, in a pickup
}

// Becomes is a chord that the tune makes another.
type Becomes struct {
	Symbol string // what it is then
	Shape  draw.SVG
}

// MelodyNote is a note that can be put on another string.
type MelodyNote struct {
	Name   string
	Tick   int
	String fretboard.String
	Next   fretboard.String // where it goes next, 0 for where it lies best
	Pinned bool
}

// TuneTask is what is to be put on strings.
func TuneTask(v View) arrange.Task {
	k := arrange.Task{Instrument: v.Ins, Meter: v.Song.Meter, Bars: v.Song.Bars(), Shapes: v.Shapes, Key: v.Key, Pins: map[arrange.At]fretboard.String{}}
	for b, bar := range k.Bars {
		for _, n := range bar.Melody {
			if s := n.On[v.Ins.ID]; s > 0 && s <= v.Ins.Strings() {
				k.Pins[arrange.At{Bar: b, Tick: n.Tick}] = fretboard.String(s)
			}
		}
	}
	return k
}

// LoadMelody puts the tune of a song on an instrument.
func (t *Room) LoadMelody(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, ask MelodyAsk) (Melody, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Melody{}, err
	}
	ins := c.Instrument(ask.Instrument)
	m := answer.Keep(t.From, "melody", answer.RowsOf(sg.ID, sg.Version, sg.Moves, c.Class, ins.ID, ask.Station), func() Melody { return melodyOf(sg.Song, ins, c, ask) })
	m.Song, m.Instruments = sg, c.Instruments()
	return m, nil
}

func melodyOf(sg song.Song, ins fretboard.Instrument, c people.Class, ask MelodyAsk) Melody {
	v := NewView(sg, ins, c)
	m := Melody{Instrument: ins, Capo: sg.Capo[ins.ID], Tempos: bpm.Of(sg.Tempo)}
	k := TuneTask(v)
	stations := k.Stations()
	shown := k.Station(ask.Station).ID
	var played arrange.Played
	if !sg.HasMelody() { // strips on which it can be typed
		played = k.Station(station.TuneAlone).Play(k)
	} else {
		for i, st := range stations {
			p := st.Play(k)
			view := StationView{st, i + 1, patterns.Tenth(p.Reading(k, v.Song, v.School, c.Weigh()).Level), st.ID == shown}
			m.Stations = append(m.Stations, view)
			if view.On {
				m.Station, played = view, p
			}
		}
	}
	number := 0
	for _, sec := range v.Song.Sections {
		view := MelodySection{ID: sec.ID, Name: sec.Name, Text: song.MelodyText(sungIn(sg, sec.ID), sg.Meter.CountTicks())}
		for _, bar := range sec.Bars {
			b := MelodyBar{ID: bar.ID, Number: number + 1, Ticks: bar.Ticks(), Chords: song.BarText(bar.Changes, v.Song.MeterOf(bar))}
			if number < len(played.Bars) {
				b.Fill(v, k, bar, number, played, m.Station.Station)
				if m.Slot = k.Meter.BarTicks() / played.Grid; bar.Role == song.Pickup {
					b.Late = played.Grid - bar.Ticks()/m.Slot
				}
			}
			view.Bars = append(view.Bars, b)
			number++
		}
		m.Sections = append(m.Sections, view)
	}
	for _, l := range played.Left {
		m.Left = append(m.Left, fmt.Sprintf("Bar %d: %s", l.Bar+1, l.Why))
	}
	return m
}

// sungIn are the bars of a section as they sound.
func sungIn(sg song.Song, id song.SectionID) []song.Bar {
	if i := sg.SectionAt(id); i >= 0 {
		return sg.Sections[i].Bars
	}
	return nil
}

func (b *MelodyBar) Fill(v View, k arrange.Task, bar song.Bar, number int, played arrange.Played, st arrange.Station) {
	p := played.Bars[number]
	b.Chords = song.BarText(p.Changes, v.Song.MeterOf(bar))
	b.Strip = StationBar(v, bar, b.Number, played.Grid, p, st.Name)
	seen := map[string]bool{}
	for _, g := range p.Grips {
		if g.Becomes != "" && !seen[g.Becomes] && st.Bass != arrange.NoBass {
			seen[g.Becomes] = true
			b.Becomes = append(b.Becomes, Becomes{g.Becomes, draw.Shape{Instrument: v.Ins, Chord: g.Chord, Voicing: v.struckOf(g, p), ThickOnTop: v.ThickOnTop}.SVG()})
		}
	}
	if !st.Tune || st.Strum {
		return
	}
	for _, e := range p.Events {
		if !e.Melody {
			continue
		}
		midi := v.Ins.Open(e.Strings[0]).MIDI() + int(e.Frets[0])
		pinned := k.Pins[arrange.At{Bar: number, Tick: e.Tick}] != 0
		b.Notes = append(b.Notes, MelodyNote{e.Pitches[0].String(), e.Tick, e.Strings[0], nextString(v.Ins, midi, e.Strings[0], pinned), pinned})
	}
}

// struckOf is a grip of a bar, with only the fingers for what is struck of it where the class wants
// no others.
func (v View) struckOf(g arrange.Grip, bar arrange.PlayedBar) fretboard.Voicing {
	if !v.lean {
		return g.Voicing
	}
	until := math.MaxInt
	for _, next := range bar.Grips {
		if next.Tick > g.Tick {
			until = min(until, next.Tick)
		}
	}
	var struck []played.Event
	for _, e := range bar.Events {
		if e.Tick >= g.Tick && e.Tick < until {
			struck = append(struck, e)
		}
	}
	return g.Voicing.Only(v.Ins, g.Chord, bind.Lean(struck, g.Voicing.Shape))
}

// nextString is the next thicker string on which a pitch can be fretted; after the last of
// them the choice is Arplin's again.
func nextString(ins fretboard.Instrument, midi int, on fretboard.String, pinned bool) fretboard.String {
	for i := 1; i <= ins.Strings(); i++ {
		s := (int(on)-1+i)%ins.Strings() + 1
		if pinned && s < int(on) {
			return 0
		}
		if fret := midi - ins.Open(fretboard.String(s)).MIDI(); fret >= 0 && fret <= 12 && s != int(on) {
			return fretboard.String(s)
		}
	}
	return 0
}

// MelodyScore is a station as it sounds.
func (t *Room) MelodyScore(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, station station.ID, ask ScoreAsk) (Score, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Score{}, err
	}
	ins := c.Instrument(ask.Instrument)
	v := NewView(sg.Song, ins, c)
	st := TuneTask(v).Station(station)
	return v.Score(v.Heard(sg.Song, Tune(st.ID), ask.Feel), difficulty.OnStrings, sg.Title+", "+st.Name, bpm.Of(sg.Tempo), ask), nil
}
