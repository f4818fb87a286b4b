package ladder

import (
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// Beginning is the chords with which a teacher wants a ladder to begin, as the
// ladder's instrument fingers them; empty where they are to be found.
type Beginning struct {
	First string `json:"first,omitempty"`
	// Second makes the pair with the first.
	Second string `json:"second,omitempty"`
}

// carries is how much easier a chord may count for carrying the whole song, in levels;
// from memory.
const carries = 3.0

// atHomeChord is what speaks for the chord of the key, in levels; from memory.
const atHomeChord = 0.6

// barred is how much a barre counts against a chord to begin with, in levels: it is a
// thing of its own to learn. From memory.
const barred = 2.0

// Begin is a task whose chords have the order in which they are learned: the first is
// where the figure is easiest, by how much of the song it carries; the second makes
// with it the pair that carries most at the least cost, the change back counted; the
// others come by how hard they are to hold and to reach from those before, where the
// song sounds with them. Source: common practice.
func Begin(t difficulty.Task, choice Beginning) difficulty.Task {
	b := beginning{task: t, share: map[theory.Chord]float64{}, beside: map[[2]theory.Chord]bool{}}
	b.read()
	t.Order = nil
	if len(b.chords) == 0 {
		return t
	}
	first := b.chosen(choice.First)
	if first < 0 {
		first = b.least(func(c theory.Chord) float64 { return b.level(c) - b.worth(c) })
	}
	t.Order = []string{b.take(first)}
	if len(b.chords) > 0 {
		second := b.chosen(choice.Second)
		if second < 0 {
			one := theory.MustChord(t.Order[0]) // it was read from the song
			second = b.least(func(c theory.Chord) float64 {
				cost := b.level(one, c) - b.worth(c)
				if !b.follow(one, c) {
					cost += 10 // where they never meet there is no change to learn
				}
				return cost
			})
		}
		t.Order = append(t.Order, b.take(second))
	}
	for len(b.chords) > 0 {
		next := b.least(func(c theory.Chord) float64 { return b.reach(t.Order, c) - carries*b.share[c] })
		t.Order = append(t.Order, b.take(next))
	}
	return t
}

// beginning is what is known of the chords of a task that have no place yet.
type beginning struct {
	task   difficulty.Task
	chords []theory.Chord
	share  map[theory.Chord]float64 // of the song
	beside map[[2]theory.Chord]bool // follow each other where it is sung
	home   string                   // the chord of the key
}

func (b *beginning) read() {
	last, total := theory.Chord{}, 0.0
	var start theory.Chord
	order := sungBars(b.task)
	for _, bar := range order {
		for _, ch := range bar.Changes {
			c, err := ch.Chord()
			if err != nil {
				continue
			}
			if total == 0 {
				start = c
			} else if last != c {
				b.beside[[2]theory.Chord{last, c}] = true
			}
			if !slices.Contains(b.chords, c) {
				b.chords = append(b.chords, c)
			}
			b.share[c] += float64(ch.Ticks)
			total += float64(ch.Ticks)
			last = c
		}
	}
	b.beside[[2]theory.Chord{last, start}] = true // the song goes round
	key := song.Song{Meter: b.task.Pattern.Meter, Sections: []song.Section{{Bars: order}}}.KeyGuess().Key
	if b.home = key.Tonic.String(); key.Minor {
		b.home += "m"
	}
	for c := range b.share {
		b.share[c] /= max(1, total)
	}
}

// sungBars are the bars of a task and of its other figures as they are sung.
func sungBars(t difficulty.Task) (bars []song.Bar) {
	for _, part := range append([]difficulty.Task{t}, t.Rest...) {
		for _, at := range part.Sung() {
			bars = append(bars, part.Bars[at.Bar])
		}
	}
	return bars
}

func (b *beginning) follow(a, c theory.Chord) bool {
	return b.beside[[2]theory.Chord{a, c}] || b.beside[[2]theory.Chord{c, a}]
}

// chosen is the place of a chord of the teacher's, -1 for one that is not there.
func (b *beginning) chosen(symbol string) int {
	return slices.IndexFunc(b.chords, func(c theory.Chord) bool { return c.String() == symbol })
}

func (b *beginning) least(cost func(theory.Chord) float64) int {
	at, least := 0, math.Inf(1)
	for i, c := range b.chords {
		if v := cost(c); v < least {
			at, least = i, v
		}
	}
	return at
}

func (b *beginning) take(i int) string {
	c := b.chords[i]
	b.chords = slices.Delete(slices.Clone(b.chords), i, i+1)
	return c.String()
}

// level is that of the figure on one chord, or on two, a bar each.
func (b *beginning) level(chords ...theory.Chord) float64 {
	t := b.task
	t.Played, t.Rest, t.Bars = nil, nil, nil
	for _, c := range chords {
		t.Bars = append(t.Bars, song.Bar{Changes: song.Share(t.Pattern.Meter, []string{c.String()})})
	}
	return difficulty.LevelOf(t, difficulty.Fitted)
}

// worth is what speaks for a chord besides the figure: that it carries the song, and
// needs no barre.
func (b *beginning) worth(c theory.Chord) float64 {
	worth := carries * b.share[c]
	if c.String() == b.home {
		worth += atHomeChord
	}
	if b.task.Shapes[c].Fingering.Barre.From != 0 {
		worth -= barred
	}
	return worth
}

// reach is what a further chord costs: to hold, and to change to from those that are
// there and stand beside it.
func (b *beginning) reach(have []string, c theory.Chord) float64 {
	v, ok := b.task.Shapes[c]
	if !ok {
		return math.MaxFloat64
	}
	change := math.Inf(1)
	for _, symbol := range have {
		if o, err := theory.ParseChord(symbol); err == nil && b.follow(o, c) {
			change = min(change, fretboard.ChangeBetween(b.task.Instrument, b.task.Shapes[o], v).Effort)
		}
	}
	if math.IsInf(change, 1) {
		change = 10 // the song does not sound with it yet
	}
	return v.Hold + change
}
