package arrange

import (
	"cmp"
	"maps"
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
)

// The chords of the ways to end, a beat each, by degree of the key: where the bass goes and
// what sounds over it. Source: common practice (dominant, its third inversion, the tonic's
// first, the dominant's second; one, its seventh, four, four minor, one over five).
var (
	downToOne = []degreeChord{{5, "", 5}, {5, "7", 4}, {1, "", 3}, {5, "", 2}}
	backToOne = []degreeChord{{1, "", 1}, {1, "7", 3}, {4, "", 4}, {4, "m", 4}}
)

// degreeChord is a chord by its root's degree and that of its bass.
type degreeChord struct {
	root int8
	kind string
	bass int8
}

// in spells it in a key; in a minor one what stands on one and four is minor.
func (d degreeChord) in(k theory.Key) (symbol string) {
	scale := k.Scale()
	root, bass := scale[d.root-1], scale[d.bass-1]
	kind := d.kind
	if k.Minor && d.root != 5 && kind == "" {
		kind = "m"
	} else if k.Minor && d.root != 5 && kind == "7" {
		kind = "m7"
	}
	if symbol = root.String() + kind; root != bass {
		symbol += "/" + bass.String()
	}
	return symbol
}

// led is the task with the way in which its song ends: down to the last chord, or back to the
// beginning.
func (t Task) led() Task {
	bars, ok := t.walksDown()
	if !ok {
		bars, ok = t.turns()
	}
	if !ok {
		return t
	}
	t.Bars, t.Shapes = bars, maps.Clone(t.Shapes)
	for _, bar := range bars[max(0, len(bars)-maxEnding):] {
		for _, ch := range bar.Changes {
			c, err := ch.Chord()
			if _, had := t.Shapes[c]; had || err != nil {
				continue
			}
			if v, found := fretboard.Easiest(t.Instrument, c); found {
				t.Shapes[c] = v
			}
		}
	}
	return t
}

// maxEnding is how many bars from the end a walk can begin: the last chord may stay for a while.
const maxEnding = 6

// walksDown leads from the last dominant down the scale to the one that closes the song: at
// least on the two beats before it.
func (t Task) walksDown() ([]song.Bar, bool) {
	last := len(t.Bars) - 1
	for last > 0 && t.on(last, 1) && t.on(last-1, 1) {
		last--
	}
	n := t.Meter.TappedBeats()
	if last < 1 || len(t.Bars)-last >= maxEnding || n > len(downToOne) || !t.on(last, 1) || !t.whole(last-1) || !t.on(last-1, 5) {
		return nil, false
	}
	symbols := t.lead(t.Bars[last-1], downToOne[len(downToOne)-n:])
	for walk := n - 1; walk >= 0; walk-- { // what comes before a step that does not fit is no walk
		if symbols[walk] == "" {
			clear(symbols[:walk])
			break
		}
	}
	if n < 2 || symbols[n-1] == "" || symbols[n-2] == "" {
		return nil, false
	}
	bars := slices.Clone(t.Bars)
	bars[last-1].Changes = t.changes(bars[last-1], symbols)
	return bars, true
}

// turns leads from the last two bars, one and five, back to the beginning.
func (t Task) turns() ([]song.Bar, bool) {
	n, last := t.Meter.TappedBeats(), len(t.Bars)-1
	if n < 3 || n > len(backToOne) || last < 1 || !t.whole(last) || !t.whole(last-1) || !t.on(last-1, 1) || !t.endsOn(last, 5) {
		return nil, false
	}
	second := []degreeChord{{1, "", 5}, {1, "", 5}, {5, "7", 5}, {5, "7", 5}}[4-n:]
	bars := slices.Clone(t.Bars)
	moves := 0
	for i, chords := range [][]degreeChord{backToOne[:n], second} {
		bar := &bars[last-1+i]
		bar.Changes = t.changes(*bar, t.lead(*bar, chords))
		moves += len(bar.Changes)
	}
	return bars, moves > 3
}

// lead are the chords that lead on, one a beat; "" where the tune has a note that is not in one.
func (t Task) lead(bar song.Bar, chords []degreeChord) (symbols []string) {
	beat := t.Meter.BeatTicks()
	for i, d := range chords {
		symbol := d.in(t.Key)
		if c, err := theory.ParseChord(symbol); err != nil || !fits(bar, c, i*beat, (i+1)*beat) {
			symbol = ""
		}
		symbols = append(symbols, symbol)
	}
	return symbols
}

// changes are a bar's chords with another on each beat that has one.
func (t Task) changes(bar song.Bar, symbols []string) (changes []song.Change) {
	beat := t.Meter.BeatTicks()
	for i, symbol := range symbols {
		symbol = cmp.Or(symbol, symbolAt(bar, i*beat))
		if n := len(changes); n > 0 && changes[n-1].Symbol == symbol {
			changes[n-1].Ticks += beat
			continue
		}
		changes = append(changes, song.Change{Symbol: symbol, Ticks: beat})
	}
	return changes
}

// fits reports that every note that sounds between two ticks is one of a chord.
func fits(bar song.Bar, c theory.Chord, from, to int) bool {
	return !slices.ContainsFunc(bar.Melody, func(n song.MelodyNote) bool {
		return n.Tick < to && n.Tick+n.Ticks > from && !slices.ContainsFunc(c.Notes(), func(x theory.Note) bool { return x.Class() == n.MIDI%12 })
	})
}

// whole reports a full bar in the meter of the song.
func (t Task) whole(bar int) bool {
	b := t.Bars[bar]
	return b.Meter == (pattern.Meter{}) && b.Ticks() == t.Meter.BarTicks() && (b.Role == song.Plain || b.Role == song.End)
}

// on reports a bar that begins with the chord on a degree.
func (t Task) on(bar int, degree int8) bool {
	c, ok := chordAt(t.Bars[bar], 0)
	return ok && c.Root.Class() == t.Key.Scale()[degree-1].Class()
}

// endsOn reports a bar whose last chord is on a degree.
func (t Task) endsOn(bar int, degree int8) bool {
	c, ok := chordAt(t.Bars[bar], t.Bars[bar].Ticks()-1)
	return ok && c.Root.Class() == t.Key.Scale()[degree-1].Class()
}

func symbolAt(bar song.Bar, tick int) string {
	at := 0
	for _, ch := range bar.Changes {
		if at += ch.Ticks; tick < at {
			return ch.Symbol
		}
	}
	return song.NoChord
}
