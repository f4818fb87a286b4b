package midifile

import (
	"cmp"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// voiceProgram of General MIDI, from 0, plays the tune: a flute.
const voiceProgram = 73

// OfLine is what is played, through the song as it is sung: a track for each part of the hand, a channel
// a string, and one for the tune.
func OfLine(p played.Line) File {
	const beatsAhead = 2 // bars that a string rings at most
	sg := p.Song
	f := File{Title: sg.Title, Division: pattern.TicksPerQuarter}
	quarters := float64(sg.Tempo)
	if sg.Meter.Compound() {
		quarters *= 1.5
	}
	f.Tempos = []Tempo{{Quarters: quarters}}
	program := p.Instrument.Traits().Program
	tracks := map[bind.Hand]*Track{}
	tune := Track{Name: "tune", Program: voiceProgram}
	end, meter := 0, pattern.Meter{}
	for _, at := range sg.Sung() {
		sec := sg.Sections[at.Section]
		bar, tick := sec.Bars[at.Bar], at.From
		if m := sg.MeterOf(bar); m != meter {
			meter = m
			f.Meters = append(f.Meters, Meter{Tick: tick, Beats: int(m.Beats), Unit: int(m.Unit)})
		}
		if at.Bar == 0 {
			f.Markers = append(f.Markers, Marker{Tick: tick, Text: sec.Name})
		}
		for _, s := range bind.Sounds(bind.School{}, p.Bars[at.Number].Events, tick) {
			if s.String == 0 || s.Tick >= tick+bar.Ticks() {
				continue
			}
			by := s.By
			if tracks[by] == nil {
				tracks[by] = &Track{Name: string(by), Program: program}
			}
			late := int(s.Late / 60000 * quarters * pattern.TicksPerQuarter)
			length := beatsAhead * meter.BarTicks()
			if s.Kind == bind.ChuckSound {
				length = meter.BeatTicks() / 8
			}
			tracks[by].Notes = append(tracks[by].Notes, Note{Channel: channelOf(s.String), Tick: s.Tick + late, Ticks: length, Key: s.MIDI + p.Capo, Velocity: int(40 + 80*s.Loud)})
		}
		for _, n := range bar.Melody {
			if k := len(tune.Notes); n.Mark == song.Tied && k > 0 {
				tune.Notes[k-1].Ticks += n.Ticks
				continue
			}
			tune.Notes = append(tune.Notes, Note{Channel: tuneChannel, Tick: tick + n.Tick, Ticks: n.Ticks, Key: n.MIDI, Velocity: 100, Lyric: n.Word})
		}
		end = tick + bar.Ticks()
	}
	f.Tracks = ringing(tracks, end)
	if len(tune.Notes) > 0 {
		f.Tracks = append([]Track{tune}, f.Tracks...)
	}
	return f
}

// channelOf is the channel of a string: from 0, past that of the drums.
func channelOf(s fretboard.String) int {
	if s >= 10 {
		return int(s)
	}
	return int(s) - 1
}

// tuneChannel is the channel of the tune, apart from those of strings and drums.
const tuneChannel = 15

// ringing ends each note where its string is struck again, by whatever part of the hand, or
// with the piece.
func ringing(tracks map[bind.Hand]*Track, end int) (list []Track) {
	struck := map[int][]int{} // by channel
	for _, t := range tracks {
		for _, n := range t.Notes {
			struck[n.Channel] = append(struck[n.Channel], n.Tick)
		}
	}
	for _, ticks := range struck {
		slices.Sort(ticks)
	}
	for _, by := range []bind.Hand{bind.ByMelody, bind.ByFingers, bind.ByThumb, bind.ByStrum} {
		t := tracks[by]
		if t == nil {
			continue
		}
		for i, n := range t.Notes {
			ticks := struck[n.Channel]
			next := end
			if at, _ := slices.BinarySearch(ticks, n.Tick+1); at < len(ticks) {
				next = ticks[at]
			}
			t.Notes[i].Ticks = max(1, min(n.Ticks, next-n.Tick))
		}
		slices.SortStableFunc(t.Notes, func(a, b Note) int { return cmp.Compare(a.Tick, b.Tick) })
		list = append(list, *t)
	}
	return list
}
