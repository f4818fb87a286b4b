package main

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/listen"
	"arplin/core/listen/sim"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
)

// task is a take that is to be played: the score, and what is planted in it.
type task struct {
	name    string
	score   listen.Score
	strums  bool
	ukulele bool
	planted string
	faults  sim.Faults
	want    map[key]bool // the faults that are to be named
}

// key is a fault at its place.
type key struct {
	kind      listen.Kind
	bar, slot int
}

var chords = []string{"C | Am | F | G7", "G | Em | C | D", "D | A7 | D | G", "Am | Dm | E7 | Am", "C | C | F | C"}

const bars = 8

// taskOf is the take of a seed: any pattern of the catalogue, at a tempo that suits it.
func taskOf(seed uint64) (task, error) {
	rng := rand.New(rand.NewPCG(seed, 32))
	for range 200 {
		e := catalogue.All[rng.IntN(len(catalogue.All))]
		family := []string{"guitar", "ukulele"}[rng.IntN(2)]
		if !slices.Contains(e.Instruments, family) {
			continue
		}
		low, high := max(50, e.Tempo[0]), min(120, e.Tempo[1])
		tempo := low + rng.IntN(max(1, high-low+1))
		bs, err := song.ParseChords(chords[rng.IntN(len(chords))], e.Pattern.Meter)
		if err != nil {
			return task{}, err
		}
		ins, err := fretboard.ByID(family)
		if err != nil {
			return task{}, err
		}
		score := listen.Asked{Pattern: e.Pattern, Bars: bs, Instrument: ins, School: bind.DefaultSchool, Tempo: tempo}.For(bars)
		if len(score.Strokes) < 2*bars {
			continue // a stroke a bar is no figure to judge
		}
		t := task{name: fmt.Sprintf("%s %s at %d", family, e.ID, tempo), score: score, ukulele: family == "ukulele", strums: e.Pattern.HasStrums()}
		if t.plant(rng) {
			return t, nil
		}
	}
	return task{}, fmt.Errorf("no take for seed %d", seed)
}

// plant chooses a fault; false where the figure has no place for it.
func (t *task) plant(rng *rand.Rand) bool {
	t.want = map[key]bool{}
	t.planted = []string{"", "", "", "rush", "late-thumb", "stop", "missed", "wrong-string", "slowing", "swung"}[rng.IntN(10)]
	places := func(kind listen.Kind, is func(listen.Stroke) bool) bool {
		others := false
		for _, st := range t.score.Strokes {
			if is(st) {
				t.want[key{kind, st.In, st.Slot}] = true
			} else {
				others = true
			}
		}
		return len(t.want) > 0 && others
	}
	text := ""
	switch t.planted {
	case "rush":
		text = "rush:50"
		if t.score.Figure.Swing || !places(listen.IsEarly, func(s listen.Stroke) bool { return s.Offbeat }) {
			return false
		}
	case "late-thumb":
		text = "late-thumb:55"
		if !places(listen.IsLate, func(s listen.Stroke) bool { return s.By == bind.ByThumb }) || t.strums || 2*len(t.want) >= placesOf(t.score) { // a hand that is late in half of all is the other one, early
			return false
		}
	case "stop":
		text = "stop:*:450"
		if !places(listen.Stops, func(s listen.Stroke) bool { return s.Into != "" }) {
			return false
		}
	case "missed":
		finger := []string{"p", "i", "m", "a"}[rng.IntN(4)]
		text = "missed:" + finger + ":100"
		alone := func(s listen.Stroke) bool {
			return s.Finger == finger && !slices.ContainsFunc(t.score.Strokes, func(o listen.Stroke) bool {
				return o.At == s.At && o.By == s.By && o.Finger != finger
			})
		}
		if !places(listen.IsMissed, alone) || 5*len(t.want) > 2*placesOf(t.score) {
			return false
		}
	case "wrong-string":
		text = "wrong-string:15"
		if t.strums || !slices.ContainsFunc(t.score.Strokes, func(s listen.Stroke) bool { return s.By == bind.ByThumb }) {
			return false
		}
	case "slowing":
		text = "slowing:8"
		t.want[key{listen.Slows, -1, -1}] = true
	case "swung":
		text = "swung"
		if t.score.BeatMS()/6 < 1.3*listen.OnTimeMS || !slices.ContainsFunc(t.score.Strokes, func(s listen.Stroke) bool { return s.Offbeat }) {
			return false
		}
		kind := listen.IsSwung
		if t.score.Figure.Swing {
			kind = listen.IsStraight
		}
		t.want[key{kind, -1, -1}] = true
	}
	var err error
	t.faults, err = sim.ParseFaults(text)
	return err == nil
}

// placesOf is how many places of a hand a figure has.
func placesOf(score listen.Score) int {
	all := map[[3]any]bool{}
	for _, st := range score.Strokes {
		all[[3]any{st.In, st.Slot, st.By}] = true
	}
	return len(all)
}
