package arrange

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/played"
	"arplin/core/theory"
)

// lateFinger is the finger that makes a seventh of a chord, where it comes after the bass.
// Source: common practice: a seventh chord is started as its triad.
type lateFinger struct {
	bar, tick int
	grip      Grip
	string    fretboard.String
}

// someLate reports a tune over the alternating bass in which a finger can come late.
func (t Task) someLate() bool {
	t.Bass = Alternating
	p := Played{Grid: gridOf(t), Bars: make([]PlayedBar, len(t.Bars))}
	for i, bar := range Place(t).Bars {
		p.Bars[i].Grips = bar.Grips
		for _, s := range bar.Strokes {
			p.Bars[i].Events = append(p.Bars[i].Events, t.pluck(p.Grid, bar.chordAt(s.Tick), s))
		}
	}
	return len(t.lateFingers(p)) > 0
}

// lateFingers are where a seventh begins on a beat with the bass, and half a beat later its
// string is free and nothing is struck.
func (t Task) lateFingers(p Played) (list []lateFinger) {
	var before theory.Chord
	for i, bar := range p.Bars {
		for k, g := range bar.Grips {
			begins := g.Chord != before
			before = g.Chord
			at := g.Tick + t.Meter.BeatTicks()/2
			next := k+1 < len(bar.Grips) && bar.Grips[k+1].Tick <= at
			struck := slices.ContainsFunc(bar.Events, func(e played.Event) bool { return e.Tick == at })
			bass := slices.ContainsFunc(bar.Events, func(e played.Event) bool { return e.Tick == g.Tick && !e.Melody })
			if !begins || next || struck || !bass || g.Tick%t.Meter.BeatTicks() != 0 {
				continue
			}
			if s := t.seventhOf(g); s != 0 {
				list = append(list, lateFinger{i, at, g, s})
			}
		}
	}
	return list
}

// seventhOf is the string on which a finger holds the seventh of a grip, apart from the tune
// and the bass; 0 where there is none.
func (t Task) seventhOf(g Grip) fretboard.String {
	if g.Chord.IsZero() {
		return 0
	}
	seventh := -1
	for _, alter := range []int8{-1, 0} {
		if g.Chord.Has(7, alter) {
			seventh = g.Chord.Root.Above(theory.Degree{Number: 7, Alter: alter}).Class()
		}
	}
	for s := fretboard.String(1); seventh >= 0 && s < g.Voicing.Root; s++ {
		fret := g.Voicing.At(s)
		if s != g.Melody && fret > 0 && (t.Instrument.Open(s).MIDI()+int(fret))%12 == seventh {
			return s
		}
	}
	return 0
}

// addLate strikes the string of each late finger when it has come down.
func (t Task) addLate(p *Played) {
	for _, l := range t.lateFingers(*p) {
		fret := l.grip.Voicing.At(l.string)
		e := t.pluck(p.Grid, l.grip.Chord, Stroke{Tick: l.tick, String: l.string, Fret: fret})
		if finger, thin := fingers[l.string]; thin {
			e.Finger, e.Stroke.Sign = finger.String(), finger
		}
		events := append(p.Bars[l.bar].Events, e)
		slices.SortStableFunc(events, func(a, b played.Event) int { return a.Tick - b.Tick })
		p.Bars[l.bar].Events = events
	}
}
