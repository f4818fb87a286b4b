package main

import (
	"fmt"
	"strconv"
	"strings"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/variation"
	"arplin/teach/people"
)

// theTask reads a pattern over chords at a tempo.
func (f *calcFlags) theTask() (difficulty.Task, error) {
	p, err := pattern.Parse(f.pattern)
	if err != nil {
		return difficulty.Task{}, err
	}
	chords := f.chords
	if chords == "" {
		chords = "C"
	}
	bars, err := song.ParseChords(chords, p.Meter)
	if err != nil {
		return difficulty.Task{}, err
	}
	ins, err := f.theInstrument()
	if err != nil {
		return difficulty.Task{}, err
	}
	school, err := f.theSchool()
	if err != nil {
		return difficulty.Task{}, err
	}
	if f.tempo < bpm.Min || f.tempo > bpm.Max {
		return difficulty.Task{}, fmt.Errorf("tempo: %d is not between %d and %d", f.tempo, bpm.Min, bpm.Max)
	}
	sg := song.Song{Meter: p.Meter, Tempo: f.tempo, Sections: []song.Section{{Bars: bars}}}
	t := difficulty.NewTask(p, sg, ins, school, f.tempo)
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
	d := difficulty.Of(t, difficulty.Fitted)
	a := demandAnswer{Level: d.Level, Hardest: placeAnswer{d.Hardest.Bar, d.Hardest.Slot, d.Hardest.Why}}
	for _, p := range d.Parts {
		a.Parts = append(a.Parts, partAnswer{string(p.ID), p.Value, p.Unit, p.Share, p.Says})
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
	near := variation.Neighbours(t, difficulty.Fitted)
	answers := func(list []variation.Variation) []variationAnswer {
		out := []variationAnswer{}
		for _, v := range list {
			out = append(out, variationAnswer{v.Pattern.String(), v.Name(), v.Says(), v.Level, v.Together})
		}
		return out
	}
	return struct {
		Simpler []variationAnswer `json:"simpler"`
		Beside  []variationAnswer `json:"beside"`
		Harder  []variationAnswer `json:"harder"`
	}{answers(near.Simpler), answers(near.Beside), answers(near.Harder)}, nil
}

type stepAnswer struct {
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
	choice, err := order.Parse(f.order, f.size, f.chordsCome, "")
	if err != nil {
		return nil, err
	}
	first, second, err := f.beginning(t)
	if err != nil {
		return nil, err
	}
	t = ladder.Begin(t, ladder.Beginning{First: first, Second: second})
	steps, beyond := []stepAnswer{}, []stepAnswer{}
	built := grow.Build(choice, t, difficulty.Fitted, from)
	for i, s := range built {
		words := ladder.Describe(built, i, t)
		steps = append(steps, stepAnswerOf(t, s, words.Name, words.Says, s.Level))
	}
	for _, v := range grow.Beyond(t, difficulty.Fitted) {
		beyond = append(beyond, stepAnswerOf(t, ladder.Step{Pattern: v.Pattern, Over: ladder.AllChords}, v.Name(), v.Says(), v.Level))
	}
	return struct {
		Steps  []stepAnswer `json:"steps"`
		Beyond []stepAnswer `json:"beyond"`
	}{steps, beyond}, nil
}

// beginning reads --first and --pair: the first chord, and the one that makes the pair
// with it.
func (f *calcFlags) beginning(t difficulty.Task) (first, second string, err error) {
	known := func(symbol string) (string, error) {
		c, err := theory.ParseChord(symbol)
		if err != nil {
			return "", err
		}
		if _, ok := t.Shapes[c]; !ok {
			return "", fmt.Errorf("%s is not a chord of these bars", c)
		}
		return c.String(), nil
	}
	if f.first != "" {
		if first, err = known(f.first); err != nil {
			return "", "", fmt.Errorf("first: %w", err)
		}
	}
	if f.pair == "" {
		return first, "", nil
	}
	two := strings.FieldsFunc(f.pair, func(r rune) bool { return r == ',' || r == ' ' })
	if len(two) != 2 {
		return "", "", fmt.Errorf("pair: write two chords, as in C,G, not %q", f.pair)
	}
	for i := range two {
		if two[i], err = known(two[i]); err != nil {
			return "", "", fmt.Errorf("pair: %w", err)
		}
	}
	switch first {
	case "", two[0]:
		return two[0], two[1], nil
	case two[1]:
		return first, two[0], nil
	}
	return "", "", fmt.Errorf("pair: %s is not one of %s", first, f.pair)
}

func stepAnswerOf(t difficulty.Task, s ladder.Step, adds, says string, level float64) stepAnswer {
	goal := s.Goal(t.Tempo)
	a := stepAnswer{
		Pattern: s.Pattern.String(), Adds: adds, Says: says, Level: level, Tempos: temposAnswer(s.Tempos(t.Tempo)),
		Ready: people.ReadyWhen(s, goal), How: s.How(), Play: s.Play.String(), Shapes: []string{},
	}
	seen := map[theory.Chord]bool{}
	var bars []string
	task := s.Task(t)
	for _, at := range task.Sung() {
		bar := task.Bars[at.Bar]
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
