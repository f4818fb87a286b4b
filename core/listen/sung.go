package listen

import (
	"cmp"
	"fmt"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
)

// Sung is what a play bar plays, in ticks from the beginning: what a page asks a player for.
type Sung struct {
	Beat    int          `json:"beat"` // ticks of a tapped beat
	Figures []SungFigure `json:"figures"`
	Bars    []SungBar    `json:"bars"`
	Notes   []SungNote   `json:"notes"` // in order
}

// SungFigure is a figure of some bars.
type SungFigure struct {
	Notation string `json:"n"`
}

// SungBar is a bar as it is sung.
type SungBar struct {
	From    int          `json:"from"`
	Beats   int          `json:"beats"`
	Figure  int          `json:"f"` // of Figures; -1 for none
	In      int          `json:"p"` // bar of the figure
	Changes []SungChange `json:"ch"`
}

// SungChange is a chord from a tick on, with what its strings give: pairs of a string and its MIDI pitch.
type SungChange struct {
	Tick   int      `json:"t"`
	Symbol string   `json:"c"`
	Held   [][2]int `json:"h"`
}

// SungNote is a string that is struck.
type SungNote struct {
	Tick   int            `json:"t"`
	Late   float64        `json:"late"`
	String int            `json:"s"`
	MIDI   int            `json:"m"`
	Kind   bind.SoundKind `json:"k"`
	By     bind.Hand      `json:"by"`
	Loud   float64        `json:"loud"`
}

// Score is what is asked for of some bars, from one to another, which come round for as long as a take has them. Its beginning
// is not known: a recording has its own delay.
func (s Sung) Score(tempo, from, to, bars int) (Score, error) {
	if from < 0 || to < from || to >= len(s.Bars) || bars < 1 || s.Beat < 1 || tempo < 1 {
		return Score{}, fmt.Errorf("there are no such bars")
	}
	round := s.Bars[from : to+1]
	first := round[0]
	if first.Figure < 0 || first.Figure >= len(s.Figures) {
		return Score{}, fmt.Errorf("bar %d has no pattern to listen for: drag over bars that have one", from+1)
	}
	for i, bar := range round {
		if bar.Figure != first.Figure || bar.Beats != first.Beats {
			return Score{}, fmt.Errorf("bar %d has another pattern or time signature: drag over bars that have the same", from+i+1)
		}
	}
	figure, err := pattern.Parse(s.Figures[first.Figure].Notation)
	if err != nil {
		return Score{}, fmt.Errorf("the pattern: %w", err)
	}
	if figure.Meter.BarTicks() != first.Beats*s.Beat {
		return Score{}, fmt.Errorf("bar %d is no whole bar of its pattern: drag over whole bars", from+1)
	}
	out := Score{Figure: figure, Tempo: tempo, Bars: bars, Free: true}
	tick := 60000 / float64(tempo) / float64(s.Beat)
	chord := ""
	for n := range bars {
		bar := round[n%len(round)]
		for _, st := range s.strokes(bar, figure) {
			at := st.At
			st.Bar, st.At = n, float64(n)*out.BarMS()+at*tick
			for _, ch := range bar.Changes {
				if float64(ch.Tick-bar.From) <= at {
					st.Chord, st.Shape = ch.Symbol, ch.shape()
				}
			}
			if st.Chord != chord && chord != "" {
				st.Into = st.Chord
			}
			chord = st.Chord
			out.Strokes = append(out.Strokes, st)
		}
	}
	if len(out.Strokes) == 0 {
		return out, fmt.Errorf("nothing is played in these bars")
	}
	return out, nil
}

// strokes are those of a bar, At in ticks from its beginning.
func (s Sung) strokes(bar SungBar, figure pattern.Pattern) (list []Stroke) {
	end := bar.From + bar.Beats*s.Beat
	beat := figure.Meter.BarTicks() / max(1, figure.Meter.TappedBeats())
	for _, n := range s.Notes {
		if n.Tick < bar.From || n.Tick >= end || n.Kind == bind.StopSound {
			continue
		}
		at := n.Tick - bar.From
		slot := 0
		for k := range figure.Grid() {
			if figure.SlotStart(k) <= at {
				slot = k
			}
		}
		snd := bind.Sound{Tick: n.Tick, Late: n.Late, String: fretboard.String(n.String), MIDI: n.MIDI, Kind: n.Kind, By: n.By, Loud: n.Loud}
		if k := slices.IndexFunc(list, func(st Stroke) bool { return st.At == float64(at) && st.By == n.By && st.Kind == kindOf(n.Kind) }); k >= 0 {
			list[k].Sounds = append(list[k].Sounds, snd)
			continue
		}
		straight := slot * figure.SlotTicks()
		list = append(list, Stroke{
			Slot: slot, In: bar.In, At: float64(at), By: n.By, Kind: kindOf(n.Kind), Sounds: []bind.Sound{snd},
			OnBeat: straight%beat == 0, Offbeat: straight%beat == beat/2 && beat%2 == 0 && !figure.Meter.Compound(),
		})
	}
	slices.SortStableFunc(list, func(a, b Stroke) int { return cmp.Compare(a.At, b.At) })
	return list
}

func (c SungChange) shape() (list []Pitch) {
	for _, h := range c.Held {
		list = append(list, Pitch{fretboard.String(h[0]), h[1]})
	}
	return list
}

// kindOf is what matters of a kind: whether it has a pitch.
func kindOf(k bind.SoundKind) played.Kind {
	switch k {
	case bind.ChuckSound:
		return played.Chuck
	case bind.KnockSound:
		return played.Knock
	}
	return played.Pluck
}
