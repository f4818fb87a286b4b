package drill

import (
	"maps"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// On is an exercise to be played, where o is the song that it was made for. Where it is on no
// chord, over has what each of its bars is on instead.
func (e Exercise) On(o bind.On) (on bind.On, over []string) {
	bars := slices.Clone(e.Bars)
	if len(bars) == 0 {
		bars, over, o.Shapes = e.barsOver(o.Instrument)
	} else {
		o.Shapes = shapesOf(bars, o)
	}
	o.Song.Sections = []song.Section{{Name: e.Title, Bars: bars}}
	o.Fingered.Sections = o.Song.Sections
	return o, over
}

// barsOver are the bars of an exercise that is on no chord: the figure once on open strings,
// or on a shape that moves up a fret each time. Each shape stands under a chord of its own.
func (e Exercise) barsOver(ins fretboard.Instrument) (bars []song.Bar, over []string, shapes bind.Shapes) {
	shapes = bind.Shapes{}
	sh, times := ShapeOver(ins, e.Over), 1
	if low, _ := sh.Span(); low > 0 {
		times = 4
	}
	for _, symbol := range []string{"C", "C#", "D", "D#"}[:times] {
		shapes[theory.MustChord(symbol)] = fretboard.Voicing{Shape: sh}
		for range e.Pattern.Bars {
			bars = append(bars, song.Bar{Changes: []song.Change{{Symbol: symbol, Ticks: e.Pattern.Meter.BarTicks()}}})
			over = append(over, sh.String())
		}
		for s := fretboard.String(1); int(s) <= sh.Strings(); s++ {
			if f := sh.At(s); f > 0 {
				sh = sh.With(s, f+1)
			}
		}
	}
	return bars, over, shapes
}

// shapesOf are the shapes of the song, and the easiest of chords that are not in it.
func shapesOf(bars []song.Bar, o bind.On) bind.Shapes {
	shapes := maps.Clone(o.Shapes)
	for _, bar := range bars {
		for _, change := range bar.Changes {
			ch, err := change.Chord()
			if _, ok := shapes[ch]; ok || err != nil {
				continue
			}
			if v, ok := fretboard.Easiest(o.Instrument, ch); ok {
				shapes[ch] = v
			}
		}
	}
	return shapes
}

// ShapeOver is the shape of an exercise that is on no chord: one that moves, or open strings.
func ShapeOver(ins fretboard.Instrument, over string) fretboard.Shape {
	if moved, err := fretboard.ParseShape(over); err == nil && moved.Strings() == ins.Strings() {
		return moved
	}
	return fretboard.MustShape(strings.Repeat("0", ins.Strings()))
}
