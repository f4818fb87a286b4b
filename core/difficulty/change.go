package difficulty

import (
	"fmt"

	"arplin/core/fretboard"
)

// struck is a stroke with the chord that is held at it, -1 for none.
type struck struct{ tick, slot, chord int }

// strokesOf lists the strokes of a bar with their chords.
func strokesOf(t Task, b *boundBar) []struck {
	list := make([]struck, len(b.events))
	for i, e := range b.events {
		chord := -1
		for k, h := range b.held {
			if h.From <= e.Slot*t.Pattern.SlotTicks() {
				chord = b.chords[k]
			}
		}
		list[i] = struck{e.Tick, e.Slot, chord}
	}
	return list
}

// changeOf is the work of the changes against the time there is for each: the
// mean a second, and the hardest. The song goes round.
func (b *barBinder) changeOf(bars []*boundBar) (float64, Place) {
	barTicks := b.task.Pattern.Meter.BarTicks()
	whole := len(bars) * barTicks
	before, beforeAt, found := struck{}, 0, false
	for i := len(bars) - 1; i >= 0 && !found; i-- { // the last stroke comes before the first
		if n := len(bars[i].strokes); n > 0 {
			before, found = bars[i].strokes[n-1], true
			beforeAt = i*barTicks + before.tick - whole
		}
	}
	var worst Place
	total, most := 0.0, 0.0
	seconds := beatSeconds(b.task) / float64(b.task.Pattern.Meter.BeatTicks())
	for i, bar := range bars {
		for _, now := range bar.strokes {
			at := i*barTicks + now.tick
			if now.chord != before.chord {
				gap := at - beforeAt
				if gap <= 0 {
					gap += whole
				}
				work := b.effort(before.chord, now.chord)
				total += work
				if hard := work / (1 + float64(gap)*seconds); hard > most {
					most = hard
					worst = Place{Bar: i, Slot: now.slot, Seconds: float64(gap) * seconds, Change: true}
				}
			}
			before, beforeAt = now, at
		}
	}
	return total/(float64(whole)*seconds) + most/2, worst
}

// effort is the work from one chord's shape to another's, found once.
func (b *barBinder) effort(from, to int) float64 {
	key := [2]int{from, to}
	work, ok := b.efforts[key]
	if !ok {
		work = fretboard.ChangeBetween(b.task.Instrument, b.voicing(from), b.voicing(to)).Effort
		b.efforts[key] = work
	}
	return work
}

func (b *barBinder) voicing(chord int) fretboard.Voicing {
	if chord < 0 {
		return fretboard.Voicing{}
	}
	return b.chords[chord].shape
}

// hardestPlace is the hardest change, or else the densest slot of the figure,
// with the reason in words. The place is named on the grid that was asked about.
func hardestPlace(t Task, m measured) Place {
	place := hardestInLine(t, m)
	if order := t.Sung(); len(order) > 0 {
		place.Bar = order[place.Bar%len(order)].Bar
	}
	return place
}

// hardestInLine counts bars as they are sung.
func hardestInLine(t Task, m measured) Place {
	if m.worst.Change {
		m.worst.Slot *= m.finer
		m.worst.Why = fmt.Sprintf("%.1f seconds for the chord change", m.worst.Seconds)
		return m.worst
	}
	p := Coarsest(t.Pattern)
	place, most := Place{Why: "no spot is harder than another"}, 0.0
	for i, b := range m.bars {
		for s, slot := range p.Bars[b.pattern] {
			hard := 0.0
			for _, st := range slot.Strokes {
				hard = max(hard, strokeWeight(st))
			}
			hard *= float64(len(slot.Strokes))
			if !p.OnBeat(s) {
				hard *= 1.5
			}
			if hard > most {
				most = hard
				why := "off the beat"
				switch {
				case len(slot.Strokes) > 1:
					why = "notes that come together"
				case p.OnBeat(s):
					why = "the first stroke has to be in time"
				case p.Meter.Compound():
					why = "the stroke falls on " + p.Spot(s) + ", which is light"
				}
				place = Place{Bar: i, Slot: s * m.finer, Why: why}
			}
		}
	}
	return place
}
