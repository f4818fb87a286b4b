package demand

import (
	"fmt"

	"arplin/core/fretboard"
)

// changeOf is the work of the changes against the time there is for each: the
// mean a second, and the hardest. The song goes round.
func changeOf(t Task, bars []*boundBar) (float64, Place) {
	type struck struct {
		tick, bar, slot int
		shape           fretboard.Voicing
	}
	var line []struck
	barTicks := t.Pattern.Meter.BarTicks()
	for i, b := range bars {
		for _, e := range b.events {
			v := fretboard.Voicing{}
			for k, h := range b.held {
				if h.From <= e.Slot*t.Pattern.SlotTicks() {
					v = b.shapes[k]
				}
			}
			line = append(line, struck{i*barTicks + e.Tick, i, e.Slot, v})
		}
	}
	var worst Place
	total, most := 0.0, 0.0
	seconds := beatSeconds(t) / float64(t.Pattern.Meter.BeatTicks())
	for i, now := range line {
		before := line[(i+len(line)-1)%len(line)]
		if now.shape.Shape == before.shape.Shape {
			continue
		}
		gap := now.tick - before.tick
		if gap <= 0 {
			gap += len(bars) * barTicks
		}
		work := fretboard.ChangeBetween(t.Instrument, before.shape, now.shape).Effort
		total += work
		if hard := work / (1 + float64(gap)*seconds); hard > most {
			most = hard
			worst = Place{now.bar, now.slot, fmt.Sprintf("the change to bar %d has %.1f seconds", now.bar+1, float64(gap)*seconds)}
		}
	}
	return total/(float64(len(bars)*barTicks)*seconds) + most/2, worst
}

// hardestPlace is the hardest change, or else the densest bar of the figure.
func hardestPlace(t Task, bars []*boundBar, worst Place) Place {
	if worst.Why != "" {
		return worst
	}
	place, most := Place{Why: "the whole figure is even"}, 0.0
	for i, b := range bars {
		for s, slot := range t.Pattern.Bars[b.pattern] {
			hard := slotWeight(slot) * float64(len(slot.Strokes))
			if !t.Pattern.OnBeat(s) {
				hard *= 1.5
			}
			if hard > most {
				most = hard
				why := "the stroke falls off the beat"
				switch {
				case len(slot.Strokes) > 1:
					why = "strokes fall together here"
				case t.Pattern.OnBeat(s):
					why = "the first stroke must be in time"
				}
				place = Place{i, s, why}
			}
		}
	}
	return place
}
