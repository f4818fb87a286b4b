package midifile

import "sort"

// Milliseconds is when a tick comes, by the tempos of the file, from its beginning. Source: Standard MIDI Files 1.0,
// Set Tempo; without one it is 120 quarters a minute.
func (f File) Milliseconds() func(tick int) float64 {
	type from struct {
		tick   int
		at, ms float64 // where it begins, and how long a tick lasts from there
	}
	perTick := func(quarters float64) float64 { return 60000 / quarters / float64(max(1, f.Division)) }
	list := []from{{0, 0, perTick(120)}}
	for _, t := range f.Tempos {
		if t.Quarters <= 0 {
			continue
		}
		last := list[len(list)-1]
		list = append(list, from{t.Tick, last.at + float64(t.Tick-last.tick)*last.ms, perTick(t.Quarters)})
	}
	return func(tick int) float64 {
		i := sort.Search(len(list), func(i int) bool { return list[i].tick > tick }) - 1
		return list[i].at + float64(tick-list[i].tick)*list[i].ms
	}
}
