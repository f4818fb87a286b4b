package pattern

import (
	"fmt"
	"slices"
	"strings"
)

// Cursor is a place on the bench: a slot, and which of its strokes is chosen.
type Cursor struct {
	Bar, Slot, Stroke int
}

// Press carries out one key of the bench on a copy of the pattern. Keys that
// mean nothing here leave everything as it is; a key that cannot be carried out
// is an error in words. Keys: ArrowLeft ArrowRight ArrowUp ArrowDown Home End,
// p i m a c fingers, d u strums, N nails, k knock, s sweep, = stop, 1 to 9 ' ,
// b t r n o targets, ! ? * x marks, Delete and "." clear, + and - bars, R turns
// the bar round, < and > rotate it.
func (p Pattern) Press(at Cursor, key string) (Pattern, Cursor, error) {
	q := p.Clone()
	at = q.clamp(at)
	switch key {
	case "ArrowLeft", "ArrowRight", "Home", "End":
		return q, q.move(at, key), nil
	case "ArrowUp", "ArrowDown":
		if n := len(q.slot(at).Strokes); n > 0 {
			step := map[string]int{"ArrowUp": 1, "ArrowDown": n - 1}[key]
			at.Stroke = (at.Stroke + step) % n
		}
		return q, at, nil
	case "Delete", "Backspace", ".":
		*q.slot(at) = Slot{}
		return q, q.clamp(at), nil
	case "=":
		slot := q.slot(at)
		*slot = Slot{Stop: !slot.Stop}
		return q, q.clamp(at), nil
	case "+":
		if len(q.Bars) >= MaxBars {
			return p, at, fmt.Errorf("a pattern has at most %d bars", MaxBars)
		}
		again := Pattern{Bars: q.Bars[at.Bar : at.Bar+1]}.Clone().Bars[0]
		q.Bars = slices.Insert(q.Bars, at.Bar+1, again)
		return q, Cursor{Bar: at.Bar + 1, Slot: at.Slot}, nil
	case "-":
		if len(q.Bars) == 1 {
			return p, at, fmt.Errorf("a pattern keeps at least one bar")
		}
		q.Bars = slices.Delete(q.Bars, at.Bar, at.Bar+1)
		return q, q.clamp(at), nil
	case "R", "<", ">":
		q.turn(at.Bar, key)
		return q, q.clamp(at), nil
	}
	if sign, ok := pressSigns[key]; ok {
		at.Stroke = q.toggle(at, sign)
		return q, at, nil
	}
	return q.change(p, at, key)
}

var pressSigns = map[string]Sign{
	"p": Thumb, "i": Index, "m": Middle, "a": Ring, "c": Little, "d": Down, "u": Up, "D": Down, "U": Up, "N": Nails, "k": Knock, "s": Sweep, "~": Sweep,
}

func (p Pattern) slot(at Cursor) *Slot { return &p.Bars[at.Bar][at.Slot] }

// clamp brings a cursor that a page sent back into the pattern.
func (p Pattern) clamp(at Cursor) Cursor {
	at.Bar = min(max(at.Bar, 0), len(p.Bars)-1)
	at.Slot = min(max(at.Slot, 0), p.Grid()-1)
	at.Stroke = min(max(at.Stroke, 0), max(0, len(p.slot(at).Strokes)-1))
	return at
}

func (p Pattern) move(at Cursor, key string) Cursor {
	i := at.Bar*p.Grid() + at.Slot
	total := len(p.Bars) * p.Grid()
	switch key {
	case "ArrowLeft":
		i = (i + total - 1) % total
	case "ArrowRight":
		i = (i + 1) % total
	case "Home":
		i = at.Bar * p.Grid()
	case "End":
		i = at.Bar*p.Grid() + p.Grid() - 1
	}
	return Cursor{Bar: i / p.Grid(), Slot: i % p.Grid()}
}

// toggle places or takes out a stroke and returns which one is chosen then. Of
// the strums only one can stand in a slot.
func (p Pattern) toggle(at Cursor, sign Sign) int {
	slot := p.slot(at)
	slot.Stop = false
	_, had := slot.Find(sign)
	slot.Strokes = slices.DeleteFunc(slot.Strokes, func(st Stroke) bool {
		return st.Sign == sign || (sign.Strum() && (st.Sign.Strum() || st.Sign.Air()))
	})
	if had {
		return 0
	}
	slot.Strokes = append(slot.Strokes, Stroke{Sign: sign})
	slices.SortFunc(slot.Strokes, func(a, b Stroke) int { return a.Sign.rank() - b.Sign.rank() })
	return slices.IndexFunc(slot.Strokes, func(st Stroke) bool { return st.Sign == sign })
}

// change sets a target or toggles a mark on the chosen stroke. What the result
// may be is for the reader of the notation to say.
func (p Pattern) change(before Pattern, at Cursor, key string) (Pattern, Cursor, error) {
	slot := p.slot(at)
	known := len(key) == 1 && strings.Contains("123456789',btrno!?*x", key)
	if !known {
		return before, at, nil
	}
	if len(slot.Strokes) == 0 {
		return before, at, fmt.Errorf("place a stroke first, then say where it goes")
	}
	st := &slot.Strokes[at.Stroke]
	if i := strings.IndexByte(markLetters, key[0]); i >= 0 {
		m := Marks(1 << i)
		if st.Marks ^= m; m == Accent {
			st.Marks &^= Soft
		} else if m == Soft {
			st.Marks &^= Accent
		}
	} else if kind, ok := kindOf(key[0]); ok {
		st.Target = toggleTarget(st.Target, Target{Kind: kind})
	} else {
		st.Target = toggleTarget(st.Target, Target{Kind: Given, Strings: Strings(int(key[0] - '0'))})
	}
	if again, err := Parse(p.String()); err != nil || !again.Equal(p) {
		return before, at, fmt.Errorf("%q does not go with %s", key, before.slot(at).Strokes[at.Stroke])
	}
	return p, at, nil
}

func toggleTarget(was, want Target) Target {
	if was == want {
		return Target{}
	}
	return want
}

// turn turns a bar round in time, or rotates it by one slot.
func (p Pattern) turn(bar int, key string) {
	slots := p.Bars[bar]
	switch key {
	case "R":
		slices.Reverse(slots)
	case "<":
		p.Bars[bar] = append(slots[1:], slots[0])
	case ">":
		last := len(slots) - 1
		p.Bars[bar] = append(Bar{slots[last]}, slots[:last]...)
	}
}

// Regrid puts the pattern on another grid of its meter. Strokes keep their place
// in time; those that fall between the new slots are counted and left out.
func (p Pattern) Regrid(grid int) (q Pattern, lost int, err error) {
	if !p.Meter.allows(grid) {
		return p, 0, fmt.Errorf("a bar of %s has %s slots, not %d", p.Meter, orList(p.Meter.Grids()), grid)
	}
	q = Pattern{Meter: p.Meter, Swing: p.Swing}
	if n := p.Meter.SlotsPerBeat(grid); p.Meter.Compound() || n != 2 && n != 4 {
		q.Swing = false
	}
	for _, bar := range p.Clone().Bars {
		fresh := make(Bar, grid)
		for i, slot := range bar {
			switch at := i * grid; {
			case slot.Empty():
			case at%len(bar) == 0:
				fresh[at/len(bar)] = slot
			default:
				lost += max(1, len(slot.Strokes))
			}
		}
		q.Bars = append(q.Bars, fresh)
	}
	return q, lost, nil
}
