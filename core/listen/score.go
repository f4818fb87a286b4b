package listen

import (
	"cmp"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// Stroke is what is asked for: a stroke of the hand at a moment of the take.
type Stroke struct {
	Bar, Slot int     // of the take, from 0
	In        int     // the bar of the figure, from 0
	At        float64 // milliseconds from the first beat
	By        bind.Hand
	Finger    string // "p" "i" "m" "a" "c"; empty for strums and picks
	Kind      played.Kind
	Sounds    []bind.Sound // a string each, with how many milliseconds after the first
	Shape     []Pitch      // what every string of the chord held would give
	Chord     string       // that is held
	Into      string       // the same, where it is the first stroke of another chord than the one before
	OnBeat    bool
	Offbeat   bool // halfway between two beats as written
}

// Pitch is what a string gives, as MIDI.
type Pitch struct {
	String fretboard.String
	MIDI   int
}

// gives reports whether a string of the chord held has a pitch.
func (s Stroke) gives(midi int) bool {
	return slices.ContainsFunc(s.Shape, func(p Pitch) bool { return p.MIDI == midi })
}

// Score is what is asked for of a take: a figure over chords at a tempo.
type Score struct {
	Figure  pattern.Pattern
	Tempo   int // tapped beats a minute
	Bars    int
	Free    bool     // when it begins is not known: what most places agree on is on time
	Strokes []Stroke // in the order in which they sound
}

// BarMS is the length of a bar in milliseconds.
func (s Score) BarMS() float64 { return Timeline{s.Figure, s.Tempo}.BarMS() }

// BeatMS is the length of a tapped beat in milliseconds.
func (s Score) BeatMS() float64 { return 60000 / float64(s.Tempo) }

// Asked is a figure over the bars of chords, which begin again when they are through.
type Asked struct {
	Pattern    pattern.Pattern
	Bars       []song.Bar
	Instrument fretboard.Instrument
	School     bind.School
	Shapes     bind.Shapes // nil for the usual ones
	Tempo      int
}

// For is the score of so many bars of it.
func (a Asked) For(bars int) Score {
	if len(a.Bars) == 0 {
		return Score{Figure: a.Pattern, Tempo: a.Tempo}
	}
	all := slices.Repeat(a.Bars, (bars+len(a.Bars)-1)/len(a.Bars))[:bars]
	sg := song.Song{Meter: a.Pattern.Meter, Tempo: a.Tempo, Sections: []song.Section{{Bars: all}}}
	if a.Shapes == nil {
		a.Shapes = sg.UsualShapesOn(a.Instrument)
	}
	line := bind.On{Song: sg, Fingered: sg, Instrument: a.Instrument, School: a.School, Shapes: a.Shapes}.Line(bind.Always(a.Pattern))
	return NewScore(line, a.School, a.Pattern, a.Tempo, bars)
}

// NewScore is a line that has one figure on all its bars, so many of them; the line begins again when
// it is through.
func NewScore(line played.Line, school bind.School, figure pattern.Pattern, tempo, bars int) Score {
	s := Score{Figure: figure, Tempo: tempo, Bars: bars}
	if len(line.Bars) == 0 {
		return s
	}
	ticks := figure.Meter.BarTicks()
	tick := s.BarMS() / float64(ticks)
	beat := ticks / max(1, figure.Meter.TappedBeats())
	before := ""
	written := line.Fingered.Bars()
	for n := range bars {
		bar, own := line.Bars[n%len(line.Bars)], written[n%len(line.Bars)]
		for _, e := range bar.Events {
			straight := e.Slot * ticks / max(1, figure.Grid())
			st := Stroke{
				Bar: n, Slot: e.Slot, In: bar.FigureBar, At: float64(n)*s.BarMS() + float64(e.Tick)*tick, Finger: e.Finger, Kind: e.Kind,
				Sounds: bind.Sounds(school, []played.Event{e}, 0), OnBeat: straight%beat == 0, Offbeat: straight%beat == beat/2 && beat%2 == 0 && !figure.Meter.Compound(),
			}
			if len(st.Sounds) == 0 {
				continue
			}
			st.By = st.Sounds[0].By
			from := 0
			for _, ch := range own.Changes {
				if from <= e.Tick {
					st.Chord = ch.Symbol
				}
				from += ch.Ticks
			}
			for _, h := range bar.Held {
				if h.From <= e.Tick {
					st.Shape = pitchesOf(line, h)
				}
			}
			if st.Chord != before && before != "" {
				st.Into = st.Chord
			}
			before = st.Chord
			s.Strokes = append(s.Strokes, st)
		}
	}
	slices.SortStableFunc(s.Strokes, func(a, b Stroke) int { return cmp.Compare(a.At, b.At) })
	return s
}

// pitchesOf is what each string of a held shape gives; strings that are not held give nothing.
func pitchesOf(line played.Line, h played.Held) (list []Pitch) {
	ins := line.Instrument.WithCapo(line.Capo)
	for n := ins.Strings(); n >= 1; n-- {
		str := fretboard.String(n)
		if fret := h.Voicing.At(str); fret >= 0 {
			list = append(list, Pitch{str, ins.Open(str).MIDI() + int(fret)})
		}
	}
	return list
}
