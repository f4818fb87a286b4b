package bind

import (
	"fmt"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/theory"
)

// Notice says in words where a stroke did not go as written.
type Notice struct {
	Bar, Slot int // from 0
	Text      string
}

func (n Notice) String() string {
	return fmt.Sprintf("bar %d, slot %d: %s", n.Bar+1, n.Slot+1, n.Text)
}

// Held is a chord and the shape that holds it, from a place in the bar on.
type Held struct {
	From  int // ticks from the bar line
	Chord theory.Chord
	Shape fretboard.Shape
}

// Result is a bound pattern.
type Result struct {
	Events  []played.Event
	Notices []Notice
}

// Pattern binds every bar of a pattern to one chord.
func Pattern(ins fretboard.Instrument, school School, p pattern.Pattern, c theory.Chord, sh fretboard.Shape) Result {
	b := New(ins, school, p)
	var r Result
	for i := range p.Bars {
		bar := b.Bar(i, []Held{{0, c, sh}})
		r.Events = append(r.Events, bar.Events...)
		r.Notices = append(r.Notices, bar.Notices...)
	}
	return r
}

// Binder puts one pattern on any chord of one instrument.
type Binder struct {
	ins     fretboard.Instrument
	school  School
	p       pattern.Pattern
	thumbs  bool                              // a thumb alternates or takes the low fifth
	alters  bool                              // p' itself occurs
	hasRing bool                              // the ring finger plays without a digit
	hasPin  bool                              // the little finger plays without a digit
	names   map[theory.Chord]*[12]theory.Note // how a chord spells each pitch class
}

// New prepares a binding.
func New(ins fretboard.Instrument, school School, p pattern.Pattern) *Binder {
	b := &Binder{ins: ins, school: school, p: p, names: map[theory.Chord]*[12]theory.Note{}}
	b.alters = p.UsesTarget(pattern.Alternate, "p")
	b.thumbs = b.alters || p.UsesTarget(pattern.LowFifth, "p")
	for _, kind := range []pattern.TargetKind{pattern.ByChord, pattern.Inner, pattern.Outer} {
		b.hasRing = b.hasRing || p.UsesTarget(kind, "a")
		b.hasPin = b.hasPin || p.UsesTarget(kind, "c")
	}
	return b
}

// spelled looks up how a chord names the twelve classes.
func (b *Binder) spelled(c theory.Chord) *[12]theory.Note {
	names, ok := b.names[c]
	if !ok {
		names = &[12]theory.Note{}
		for class := range names {
			names[class] = c.Spell(class)
		}
		b.names[c] = names
	}
	return names
}

// Bar binds bar i of the pattern to the chords held in it, in the order in
// which they begin. Without a chord nothing is bound.
func (b *Binder) Bar(i int, held []Held) Result {
	w := &barWriter{Binder: b, bar: i}
	next := 0
	for slot, content := range b.p.Bars[i] {
		tick := slot * b.p.SlotTicks()
		w.changed = false
		for next < len(held) && held[next].From <= tick {
			before := w.held
			w.hold(held[next])
			w.changed = next > 0 && !w.walksOn(before)
			next++
		}
		if w.root == 0 || content.Empty() {
			continue
		}
		w.slot, w.tick = slot, b.p.SlotStart(slot)
		w.write(content)
	}
	return Result{w.events, w.notices}
}

// barWriter binds the slots of one bar in order; it remembers the sweep.
type barWriter struct {
	*Binder
	bar, slot, tick int
	held            Held
	names           *[12]theory.Note
	root            fretboard.String
	changed         bool // a chord begins in this slot, after the bar's first
	sweep           sweep
	events          []played.Event
	notices         []Notice
}

func (w *barWriter) hold(h Held) {
	w.held, w.names = h, w.spelled(h.Chord)
	w.root = fretboard.RootString(w.ins, h.Chord, h.Shape)
	w.sweep = newSweep(h.Shape, w.root)
}

// walksOn reports that only the colour of the chord has changed: the bass stays, and so does
// its string, so that the thumb goes on walking.
func (w *barWriter) walksOn(before Held) bool {
	return before.Chord.Bass == w.held.Chord.Bass && fretboard.RootString(w.ins, before.Chord, before.Shape) == w.root
}

func (w *barWriter) notice(format string, args ...any) {
	w.notices = append(w.notices, Notice{w.bar, w.slot, fmt.Sprintf(format, args...)})
}

// write binds one slot. Strokes for one string are placed first, those whose
// string is free before those that must give way; strums take what is left.
func (w *barWriter) write(slot pattern.Slot) {
	places := make([]place, len(slot.Strokes))
	var used [fretboard.MaxStrings + 1]bool
	for i, st := range slot.Strokes {
		places[i] = w.wanted(st, slot)
		if pl := &places[i]; pl.single && w.sounds(*pl) && !used[pl.string] {
			used[pl.string] = true
			pl.settled = true
		}
	}
	for i, st := range slot.Strokes {
		if pl := &places[i]; pl.single && !pl.settled {
			w.moveAside(st, pl, used[:])
		}
	}
	swept, picked := false, w.picked(slot)
	for i, st := range slot.Strokes {
		pl := &places[i]
		if !pl.single {
			pl.strings = w.across(st, used[:])
		}
		if st.Sign == pattern.Sweep {
			swept = true
		}
		w.emit(st, *pl, i == picked)
	}
	if !swept && len(slot.Strokes) > 0 {
		w.sweep.restart()
	}
}

// place is where one stroke goes.
type place struct {
	single  bool // for one string; settled once that string is found
	settled bool
	string  fretboard.String
	fret    fretboard.Fret
	strings []fretboard.String // of a strum
}

func (w *barWriter) at(s fretboard.String) place {
	return place{single: true, string: s, fret: w.held.Shape.At(s)}
}

func (w *barWriter) sounds(pl place) bool {
	return pl.string >= 1 && int(pl.string) <= w.ins.Strings() && pl.fret != fretboard.Muted
}

// moveAside finds the nearest sounding string that no other stroke uses: the
// thumb and the pick look towards the thick side first, fingers towards the thin.
func (w *barWriter) moveAside(st pattern.Stroke, pl *place, used []bool) {
	towards := fretboard.String(-1)
	if !st.Sign.Finger() || st.Sign == pattern.Thumb {
		towards = 1
	}
	n := fretboard.String(w.ins.Strings())
	for distance := fretboard.String(1); distance <= fretboard.MaxStrings; distance++ {
		for _, s := range []fretboard.String{pl.string + towards*distance, pl.string - towards*distance} {
			if s < 1 || s > n || used[s] || !w.held.Shape.Sounds(s) {
				continue
			}
			w.notice("%s cannot take string %d (%s), it takes string %d", said(st), pl.string, w.why(pl.string), s)
			*pl = w.at(s)
			pl.settled = true
			used[s] = true
			return
		}
	}
	w.notice("%s finds no free string and is left out", said(st))
}

func (w *barWriter) why(s fretboard.String) string {
	switch {
	case int(s) > w.ins.Strings():
		return "this instrument has none"
	case !w.held.Shape.Sounds(s):
		return "muted in " + w.held.Shape.String()
	}
	return "another stroke has it"
}

// said names a stroke in a sentence.
func said(st pattern.Stroke) string {
	switch {
	case st.Sign == pattern.Thumb:
		return "the thumb"
	case st.Sign.Finger():
		return "finger " + st.Sign.String()
	case st.Sign == pattern.Sweep:
		return "the sweep"
	}
	return "the pick"
}

// picked is the stroke of a slot that a pick takes in place of a finger: the first,
// which is the thumb's where there is one; -1 for none. Others stay with their
// fingers, but for the index, which holds the pick.
func (w *barWriter) picked(slot pattern.Slot) int {
	if !w.school.Pick || len(slot.Strokes) == 0 || !slot.Strokes[0].Sign.Finger() {
		return -1
	}
	if _, index := slot.Find(pattern.Index); index && slot.Strokes[0].Sign != pattern.Index {
		w.notice("the index holds the pick; another finger plays its string")
	}
	return 0
}

func (w *barWriter) emit(st pattern.Stroke, pl place, picked bool) {
	if st.Sign.Air() || pl.single && !pl.settled {
		return
	}
	e := played.Event{
		Bar: w.bar, Slot: w.slot, Tick: w.tick, Kind: kindOf(st, pl), Stroke: st,
		Accent: st.Marks.Has(pattern.Accent), Soft: st.Marks.Has(pattern.Soft), Muted: st.Marks.Has(pattern.PalmMuted),
	}
	switch {
	case picked && w.p.AgainstHand(w.slot, pattern.Down):
		e.Direction = "up"
	case picked:
		e.Direction = "down"
	case st.Sign.Finger():
		e.Finger = st.Sign.String()
	case st.Sign == pattern.Sweep:
		e.Finger, e.Direction = w.sweepHand(pl.string)
	case st.Sign == pattern.Down, st.Sign == pattern.Nails:
		e.Direction = "down"
	case st.Sign == pattern.Up:
		e.Direction = "up"
	}
	strings := pl.strings
	if pl.single {
		strings = []fretboard.String{pl.string}
	}
	if len(strings) == 0 && e.Kind != played.Knock {
		w.notice("a strum finds no sounding string and is left out")
		return
	}
	e.Strings = make([]fretboard.String, 0, len(strings))
	e.Frets = make([]fretboard.Fret, 0, len(strings))
	e.Pitches = make([]theory.Pitch, 0, len(strings))
	for _, s := range strings {
		fret := w.held.Shape.At(s)
		if pl.single {
			fret = pl.fret
		}
		e.Strings = append(e.Strings, s)
		e.Frets = append(e.Frets, fret)
		midi := w.ins.Open(s).MIDI() + int(fret)
		e.Pitches = append(e.Pitches, theory.PitchOf(midi, w.names[midi%12]))
	}
	w.events = append(w.events, e)
}

func kindOf(st pattern.Stroke, pl place) played.Kind {
	switch {
	case st.Sign == pattern.Knock:
		return played.Knock
	case st.Marks.Has(pattern.Chuck):
		return played.Chuck
	case st.Sign == pattern.Nails:
		return played.Brush
	case pl.single:
		return played.Pluck
	}
	return played.Strum
}
