package difficulty

import (
	"encoding/json"
	"fmt"
	"strings"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// Chain is a list of tasks from easier to harder, as teachers order them.
type Chain struct {
	Name  string
	Tasks []Task
}

// Orders is the contents of an orders file: chains, and groups of tasks that
// must come out equal.
type Orders struct {
	Chains []Chain
	Same   []Chain
}

// ReadOrders reads chains of patterns. What a step does not say is chords C,
// guitar, moving school, tempo 80.
func ReadOrders(data []byte) (Orders, error) {
	type step struct {
		Pattern, Chords, Shapes, Instrument string
		Tempo                               int
	}
	var file struct {
		Chains []struct {
			Name  string
			Steps []step
		}
		Same []struct {
			Name     string
			Patterns []string
		}
	}
	if err := json.Unmarshal(data, &file); err != nil {
		return Orders{}, fmt.Errorf("orders: %w", err)
	}
	read := func(name string, steps []step) (Chain, error) {
		c := Chain{Name: name}
		for i, s := range steps {
			t, err := taskOf(s.Pattern, s.Chords, s.Shapes, s.Instrument, s.Tempo)
			if err != nil {
				return c, fmt.Errorf("orders: %s, step %d: %w", name, i+1, err)
			}
			c.Tasks = append(c.Tasks, t)
		}
		return c, nil
	}
	var o Orders
	for _, c := range file.Chains {
		chain, err := read(c.Name, c.Steps)
		if err != nil {
			return o, err
		}
		o.Chains = append(o.Chains, chain)
	}
	for _, c := range file.Same {
		var steps []step
		for _, p := range c.Patterns {
			steps = append(steps, step{Pattern: p})
		}
		chain, err := read(c.Name, steps)
		if err != nil {
			return o, err
		}
		o.Same = append(o.Same, chain)
	}
	return o, nil
}

// ranksTempo is that of an order of many figures, for those that it suits.
const ranksTempo = 80

// ReadRanks reads an order of many figures, an id a line from the easiest to the hardest: on C, at
// 80 or at the fastest that suits a figure.
func ReadRanks(data []byte, figure func(id string) (p pattern.Pattern, fastest int, ok bool)) (order []Task, err error) {
	for line := range strings.Lines(string(data)) {
		id := strings.TrimSpace(line)
		if id == "" || strings.HasPrefix(id, "#") {
			continue
		}
		p, fastest, ok := figure(id)
		if !ok {
			return nil, fmt.Errorf("ranks: there is no pattern %q", id)
		}
		t, err := taskOf(p.String(), "", "", "", min(ranksTempo, fastest))
		if err != nil {
			return nil, fmt.Errorf("ranks: %s: %w", id, err)
		}
		order = append(order, t)
	}
	return order, nil
}

func taskOf(figure, chords, shapes, instrument string, tempo int) (Task, error) {
	if chords == "" {
		chords = "C"
	}
	if instrument == "" {
		instrument = "guitar"
	}
	if tempo == 0 {
		tempo = 80
	}
	p, err := pattern.Parse(figure)
	if err != nil {
		return Task{}, err
	}
	ins, err := fretboard.ByID(instrument)
	if err != nil {
		return Task{}, err
	}
	bars, err := song.ParseChords(chords, p.Meter)
	if err != nil {
		return Task{}, err
	}
	sg := song.Song{Meter: p.Meter, Tempo: tempo, Sections: []song.Section{{Bars: bars}}}
	t := NewTask(p, sg, ins, bind.DefaultSchool, tempo)
	return t, t.Pin(shapes)
}

// Pin chooses shapes by hand: "F=133211,G7=320001".
func (t *Task) Pin(shapes string) error {
	for _, pin := range strings.FieldsFunc(shapes, func(r rune) bool { return r == ',' }) {
		symbol, frets, found := strings.Cut(strings.TrimSpace(pin), "=")
		if !found {
			return fmt.Errorf("shapes: %q is not a chord, = and frets", pin)
		}
		c, err := theory.ParseChord(symbol)
		if err != nil {
			return fmt.Errorf("shapes: %w", err)
		}
		sh, err := fretboard.ParseShape(frets)
		if err != nil {
			return fmt.Errorf("shapes: %w", err)
		}
		if sh.Strings() != t.Instrument.Strings() {
			return fmt.Errorf("shapes: %s has %d strings, %s has %d", frets, sh.Strings(), t.Instrument.Name, t.Instrument.Strings())
		}
		t.Shapes[c] = fretboard.Read(t.Instrument, c, sh)
	}
	return nil
}
