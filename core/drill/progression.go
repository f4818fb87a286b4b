package drill

import (
	"slices"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/core/theory"
)

// Practice progressions by degree. Source: common practice.
var (
	majorProgressions = []string{"I vi IV V7", "I IV I V", "I V IV V7", "I I7 IV V7", "vi IV V7 I", "I V vi iii"}
	minorProgressions = []string{"i iv V7 i", "i VI III VII"}
)

// progression is the easiest of the practice progressions in the song's key that
// the song does not play itself; a bar each.
func progression(t difficulty.Task) string {
	key := song.Song{Meter: t.Pattern.Meter, Sections: []song.Section{{Bars: t.Bars}}}.KeyGuess().Key
	played := strings.Join(steps(t), " ")
	best := easiestIn(key, t.Instrument, func(chords []string) bool { return strings.Contains(played, strings.Join(chords, " ")) })
	if best == "" { // an instrument on which these chords have no shapes
		own := steps(t)
		slices.Reverse(own)
		return joined(own)
	}
	return joined(inKey(key, best))
}

// easiestIn is the easiest of the practice progressions in a key, by degree; those that
// are left out do not count. Empty where an instrument has no shapes for any.
func easiestIn(key theory.Key, ins fretboard.Instrument, leave func(chords []string) bool) (best string) {
	list := majorProgressions
	if key.Minor {
		list = minorProgressions
	}
	least := 0.0
	for _, p := range list {
		chords := inKey(key, p)
		effort, ok := holding(ins, chords)
		if !ok || leave != nil && leave(chords) {
			continue
		}
		if best == "" || effort < least {
			best, least = p, effort
		}
	}
	return best
}

// joined writes chords a bar each.
func joined(chords []string) string { return strings.Join(chords, " | ") }

func fields(degrees string) []string { return strings.Fields(degrees) }

// steps lists the song's chords in order, each run once.
func steps(t difficulty.Task) (list []string) {
	for _, bar := range t.Bars {
		for _, ch := range bar.Changes {
			if c, err := ch.Chord(); err == nil && (len(list) == 0 || list[len(list)-1] != c.String()) {
				list = append(list, c.String())
			}
		}
	}
	return list
}

var numerals = []string{"I", "II", "III", "IV", "V", "VI", "VII"}

// inKey writes degrees as chords of a key: small numerals are minor.
func inKey(key theory.Key, degrees string) (chords []string) {
	for _, d := range strings.Fields(degrees) {
		numeral := strings.TrimSuffix(d, "7")
		at := slices.Index(numerals, strings.ToUpper(numeral))
		minor := ""
		if numeral == strings.ToLower(numeral) {
			minor = "m"
		}
		chords = append(chords, key.Scale()[at].String()+minor+strings.TrimPrefix(d, numeral))
	}
	return chords
}

// holding is what the easiest shapes of some chords cost to hold, together.
func holding(ins fretboard.Instrument, chords []string) (sum float64, ok bool) {
	for _, symbol := range chords {
		c, err := theory.ParseChord(symbol)
		if err != nil {
			return 0, false
		}
		v, found := fretboard.Easiest(ins, c)
		if !found {
			return 0, false
		}
		sum += v.Hold
	}
	return sum, true
}
