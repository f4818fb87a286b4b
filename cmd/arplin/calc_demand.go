package main

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/demand"
	"arplin/core/drill"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/vary"
)

// theTask reads a pattern over chords at a tempo.
func (f *calcFlags) theTask() (demand.Task, error) {
	p, err := hand.Parse(f.pattern)
	if err != nil {
		return demand.Task{}, err
	}
	chords := f.chords
	if chords == "" {
		chords = "C"
	}
	bars, err := song.ParseChords(chords, p.Meter)
	if err != nil {
		return demand.Task{}, err
	}
	ins, err := f.theInstrument()
	if err != nil {
		return demand.Task{}, err
	}
	school, err := f.theSchool()
	if err != nil {
		return demand.Task{}, err
	}
	if f.tempo < song.MinTempo || f.tempo > song.MaxTempo {
		return demand.Task{}, fmt.Errorf("tempo: %d is not between %d and %d", f.tempo, song.MinTempo, song.MaxTempo)
	}
	sg := song.Song{Meter: p.Meter, Tempo: f.tempo, Sections: []song.Section{{Bars: bars}}}
	t := demand.NewTask(p, sg, ins, school, f.tempo)
	return t, t.Pin(f.shapes)
}

type demandAnswer struct {
	Level   float64      `json:"level"`
	Parts   []partAnswer `json:"parts"`
	Hardest placeAnswer  `json:"hardest"`
}

type partAnswer struct {
	Name  string  `json:"name"`
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
	Share float64 `json:"share"`
	Says  string  `json:"says"`
}

type placeAnswer struct {
	Bar  int    `json:"bar"`
	Slot int    `json:"slot"`
	Why  string `json:"why"`
}

func calcDemand(f *calcFlags) (any, error) {
	t, err := f.theTask()
	if err != nil {
		return nil, err
	}
	d := demand.Of(t, demand.Fitted)
	a := demandAnswer{Level: d.Level, Hardest: placeAnswer{d.Hardest.Bar, d.Hardest.Slot, d.Hardest.Why}}
	for _, p := range d.Parts {
		a.Parts = append(a.Parts, partAnswer{p.Name, p.Value, p.Unit, p.Share, p.Says})
	}
	return a, nil
}

type variationAnswer struct {
	Pattern  string  `json:"pattern"`
	Change   string  `json:"change"`
	Says     string  `json:"says"`
	Level    float64 `json:"level"`
	Together bool    `json:"together"`
}

func calcVary(f *calcFlags) (any, error) {
	t, err := f.theTask()
	if err != nil {
		return nil, err
	}
	near := vary.Neighbours(t, demand.Fitted)
	answers := func(list []vary.Variation) []variationAnswer {
		out := []variationAnswer{}
		for _, v := range list {
			out = append(out, variationAnswer{v.Pattern.String(), v.Change, v.Says, v.Level, v.Together})
		}
		return out
	}
	return struct {
		Simpler []variationAnswer `json:"simpler"`
		Beside  []variationAnswer `json:"beside"`
		Harder  []variationAnswer `json:"harder"`
	}{answers(near.Simpler), answers(near.Beside), answers(near.Harder)}, nil
}

type stairAnswer struct {
	Pattern string       `json:"pattern"`
	Chords  string       `json:"chords"`
	Shapes  []string     `json:"shapes"`
	Adds    string       `json:"adds"`
	Says    string       `json:"says"`
	Level   float64      `json:"level"`
	Tempos  temposAnswer `json:"tempos"`
	Ready   string       `json:"ready"`
	How     string       `json:"how"`
	Play    string       `json:"play"` // empty on the strings; else said, tapped, muted strings
}

type temposAnswer struct {
	Slow   int `json:"slow"`
	Medium int `json:"medium"`
	Goal   int `json:"goal"`
}

func calcLadder(f *calcFlags) (any, error) {
	t, err := f.theTask()
	if err != nil {
		return nil, err
	}
	from := 0.0
	if f.from != "" {
		if from, err = strconv.ParseFloat(f.from, 64); err != nil {
			return nil, fmt.Errorf("from: %q is not a level", f.from)
		}
	}
	order, err := vary.ParseOrder(f.order)
	if err != nil {
		return nil, fmt.Errorf("order: %w", err)
	}
	steps, beyond := []stairAnswer{}, []stairAnswer{}
	for _, s := range vary.Staircase(order, t, demand.Fitted, from) {
		steps = append(steps, stairAnswerOf(t, s, s.Goal(f.tempo)))
	}
	for _, s := range vary.Beyond(t, demand.Fitted) {
		beyond = append(beyond, stairAnswerOf(t, vary.Stair{Step: s, Chords: t.Bars}, f.tempo))
	}
	return struct {
		Steps  []stairAnswer `json:"steps"`
		Beyond []stairAnswer `json:"beyond"`
	}{steps, beyond}, nil
}

func stairAnswerOf(t demand.Task, s vary.Stair, tempo int) stairAnswer {
	a := stairAnswer{
		Pattern: s.Pattern.String(), Adds: s.Adds, Says: s.Says, Level: s.Level, Tempos: temposAnswer(vary.TemposFor(tempo)),
		Ready: s.ReadyWhen(tempo), How: s.How(), Play: string(s.Play), Shapes: []string{},
	}
	seen := map[theory.Chord]bool{}
	var bars []string
	for _, bar := range s.Chords {
		bars = append(bars, song.BarText(bar.Changes, s.Pattern.Meter))
		for _, ch := range bar.Changes {
			if c, err := ch.Chord(); err == nil && !seen[c] {
				seen[c] = true
				a.Shapes = append(a.Shapes, fmt.Sprintf("%s=%s", c, t.Shapes[c]))
			}
		}
	}
	a.Chords = strings.Join(bars, " | ")
	return a
}

type exerciseAnswer struct {
	Title   string  `json:"title"`
	Pattern string  `json:"pattern"`
	Over    string  `json:"over"`
	Tempo   int     `json:"tempo"`
	Repeats int     `json:"repeats"`
	Minutes float64 `json:"minutes"`
	Why     string  `json:"why"`
}

func calcDrill(f *calcFlags) (any, error) {
	t, err := f.theTask()
	if err != nil {
		return nil, err
	}
	list, err := drill.Bar(t, f.bar-1, drill.Day{})
	if err != nil {
		return nil, err
	}
	exercises := []exerciseAnswer{}
	for _, e := range list {
		exercises = append(exercises, exerciseAnswer{e.Title, e.Pattern.String(), e.Over, e.Tempo, e.Repeats, e.Minutes, e.Why})
	}
	return struct {
		Exercises []exerciseAnswer `json:"exercises"`
	}{exercises}, nil
}
