package musicxml

import (
	"cmp"
	"slices"
	"strconv"

	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/letters"
)

// maxWords is how many letters of words a bar takes.
const maxWords = 200

// fill makes a bar of what was found in it: its chords one after another, each until the next;
// one that is not written goes on from the bar before.
func (r *reader) fill(i int, b read) song.Bar {
	bar := song.Bar{Role: b.role, Words: letters.Cut(b.words, maxWords)}
	if r.meter != r.out.Meter {
		bar.Meter = r.meter
	}
	ticks := r.meter.BarTicks()
	switch {
	case b.ticks == 0 || b.ticks == ticks:
	case b.ticks < ticks && i == 0:
		bar.Role, ticks = song.Pickup, b.ticks
	case b.ticks < ticks && bar.Role == song.Plain && b.ticks%(pattern.TicksPerQuarter/2) == 0:
		bar.Role, ticks = song.Short, b.ticks
	case b.ticks < ticks && bar.Role != song.Plain:
		ticks = b.ticks
	case b.ticks > ticks:
		r.problem(i+1, "it’s longer than a bar in %s, so the rest is left out", r.meter)
	}
	slices.SortStableFunc(b.harmonies, func(x, y placedChord) int { return cmp.Compare(x.tick, y.tick) })
	add := func(symbol string, from, to int) {
		if to > from {
			bar.Changes = append(bar.Changes, song.Change{Symbol: symbol, Ticks: to - from})
		}
	}
	from, symbol := 0, cmp.Or(r.chord, song.NoChord)
	for _, h := range b.harmonies {
		if h.tick >= ticks {
			break
		}
		add(symbol, from, h.tick)
		from, symbol = h.tick, h.symbol
	}
	add(symbol, from, ticks)
	if again := b.sameChords; again > 0 && len(b.harmonies) == 0 {
		if changes, ok := r.barAgain(i, again, ticks); ok {
			bar.Changes = slices.Clone(changes.Changes)
			symbol = bar.Changes[len(bar.Changes)-1].Symbol
		}
	}
	r.chord = symbol
	if again := b.sameTune; again > 0 && len(b.melody) == 0 {
		if tune, ok := r.barAgain(i, again, ticks); ok {
			bar.Melody = slices.Clone(tune.Melody)
		}
	}
	for _, n := range b.melody {
		if n.Tick >= ticks {
			break
		}
		n.Ticks = min(n.Ticks, ticks-n.Tick)
		bar.Melody = r.tuneNote(i, bar.Melody, n)
	}
	r.tied = false
	if k := len(bar.Melody); k > 0 {
		last := bar.Melody[k-1]
		r.tied = last.Tick+last.Ticks == ticks
	}
	return bar
}

// barAgain is the bar that a sign of repetition takes again; none where there is none before it, or
// it is of another length.
func (r *reader) barAgain(i, bars, ticks int) (song.Bar, bool) {
	if at := len(r.made) - bars; at >= 0 && r.made[at].Ticks() == ticks {
		return r.made[at], true
	}
	r.leave(i, leftSilent)
	return song.Bar{}, false
}

// tuneNote adds a note: one that is tied to the note before within the bar is one with it.
func (r *reader) tuneNote(i int, list []song.MelodyNote, n song.MelodyNote) []song.MelodyNote {
	k := len(list)
	joins := k > 0 && list[k-1].Tick+list[k-1].Ticks == n.Tick
	switch {
	case n.Mark == song.Tied && joins && list[k-1].MIDI == n.MIDI:
		list[k-1].Ticks += n.Ticks
		return list
	case n.Mark != song.Struck && !joins && (k > 0 || n.Tick > 0 || !r.tied):
		n.Mark = song.Struck
	}
	if n.MIDI < song.LowestNote || n.MIDI > song.HighestNote {
		r.problem(i+1, "a note is left out because it’s too high or too low to play")
		return list
	}
	if k >= song.MaxMelodyNotes {
		r.problem(i+1, "a bar holds up to %d notes, so the rest is left out", song.MaxMelodyNotes)
		return list
	}
	return append(list, n)
}

// place puts a bar into its part: a repeat or a name begins one, an ending stays in it.
func (r *reader) place(i int, b read, bar song.Bar) {
	if b.start > 0 {
		r.ending = b.start
	}
	if r.section == nil || b.forward || b.name != "" || r.ended && r.ending == 0 {
		r.close()
		r.section = &song.Section{Name: letters.Cut(b.name, song.MaxSectionName)}
	}
	r.ended = false
	r.made = append(r.made, bar)
	bar.Ending = r.ending
	r.section.Bars = append(r.section.Bars, bar)
	if r.ending > 0 {
		r.section.Times = max(r.section.Times, r.ending)
	}
	if b.backward > 0 {
		r.section.Times = min(song.MaxTimes, max(r.section.Times, b.backward))
		r.ended = true
	}
	if b.stop {
		r.ending = 0
		r.ended = true
	}
}

// close ends a part; one without a name is numbered.
func (r *reader) close() {
	if r.section == nil || len(r.section.Bars) == 0 {
		return
	}
	if r.section.Name == "" {
		r.section.Name = "Part " + strconv.Itoa(len(r.out.Sections)+1)
	}
	if r.section.Times == 1 {
		r.section.Times = 0
	}
	r.out.Sections = append(r.out.Sections, *r.section)
	r.section = nil
}
