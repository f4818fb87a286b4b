package listen

import (
	"cmp"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
)

// Stroke is what is asked for: a stroke of the hand at a moment of the take.
type Stroke struct {
	Bar, Slot int     // of the take, from 0
	In        int     // the bar of the figure, from 0
	At        float64 // milliseconds from the first beat
	By        bind.Hand
	Finger    string // "p" "i" "m" "a" "c"; empty for strums and picks
	Kind      played.Kind
	Direction string
	Sounds    []bind.Sound // a string each, with how many milliseconds after the first
	Shape     []int        // what every string of the chord held would give, as MIDI
	Chord     string       // that is held
	Into      string       // the same, where it is the first stroke of another chord than the one before
	OnBeat    bool
	Offbeat   bool // halfway between two beats
}

// Score is what is asked for of a take: a figure over chords at a tempo.
type Score struct {
	Figure  pattern.Pattern
	Tempo   int // tapped beats a minute
	Bars    int
	Strokes []Stroke // in the order in which they sound
}

// BarMS is the length of a bar in milliseconds.
func (s Score) BarMS() float64 { return Timeline{s.Figure, s.Tempo}.BarMS() }

// BeatMS is the length of a tapped beat in milliseconds.
func (s Score) BeatMS() float64 { return 60000 / float64(s.Tempo) }

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
			st := Stroke{
				Bar: n, Slot: e.Slot, In: bar.FigureBar, At: float64(n)*s.BarMS() + float64(e.Tick)*tick, Finger: e.Finger, Kind: e.Kind, Direction: e.Direction,
				Sounds: bind.Sounds(school, []played.Event{e}, 0), OnBeat: e.Tick%beat == 0, Offbeat: e.Tick%beat == beat/2 && beat%2 == 0,
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

// pitchesOf is what each string of a held shape gives, as MIDI; strings that are not held give nothing.
func pitchesOf(line played.Line, h played.Held) (list []int) {
	ins := line.Instrument.WithCapo(line.Capo)
	for n := ins.Strings(); n >= 1; n-- {
		str := fretboard.String(n)
		if fret := h.Voicing.At(str); fret >= 0 {
			list = append(list, ins.Open(str).MIDI()+int(fret))
		}
	}
	return list
}
