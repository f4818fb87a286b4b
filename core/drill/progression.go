package drill

import (
	"cmp"
	"math"
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

// What an easy progression costs, in points of holding a shape: about one for a finger. From memory.
const (
	costFar       = 0.35 // for each fifth between its key and the song's
	costOtherMode = 0.5
	easyHold      = 4.5 // a shape that asks for more is not easy
)

// progression is the easiest of the practice progressions, in the song's key or in one that lies
// near it, that the song does not play itself; a bar each. What lies in the song's own key may be
// hard: in E flat nothing is easy.
func progression(t difficulty.Task) string {
	key := song.Song{Meter: t.Pattern.Meter, Sections: []song.Section{{Bars: t.Bars}}}.KeyGuess().Key
	played := strings.Join(steps(t), " ")
	hold := holder{ins: t.Instrument, known: map[string]float64{}}
	best, least := "", math.Inf(1)
	for _, near := range nearKeys(key) {
		list, far := majorProgressions, costFar*float64(near.fifths)
		if near.Minor {
			list = minorProgressions
		}
		if near.Minor != key.Minor {
			far += costOtherMode
		}
		for _, degrees := range list {
			if far >= least {
				break
			}
			chords := inKey(near.Key, degrees)
			if cost := hold.of(chords)/float64(len(chords)) + far; cost < least && !strings.Contains(played, strings.Join(chords, " ")) {
				best, least = joined(chords), cost
			}
		}
	}
	if best == "" { // an instrument on which these chords have no shapes
		own := steps(t)
		slices.Reverse(own)
		return joined(own)
	}
	return best
}

// nearKey is a key with the fifths that lie between it and another.
type nearKey struct {
	theory.Key
	fifths int
}

// nearKeys are all keys in sharps and flats that are written, the nearest first.
func nearKeys(of theory.Key) (list []nearKey) {
	for _, name := range []string{"C", "G", "D", "A", "E", "F", "Am", "Em", "Dm", "Bm"} {
		c := theory.MustChord(name)
		k := theory.Key{Tonic: c.Root, Minor: c.Minor()}
		list = append(list, nearKey{k, fifthsBetween(of, k)})
	}
	list = append(list, nearKey{of, 0})
	slices.SortStableFunc(list, func(a, b nearKey) int { return cmp.Compare(a.fifths, b.fifths) })
	return list
}

// fifthsBetween is how many fifths lie between the signatures of two keys, from 0 to 6.
func fifthsBetween(a, b theory.Key) int {
	sharps := func(k theory.Key) int {
		class := k.Tonic.Class()
		if k.Minor {
			class += 3
		}
		return class * 7 % 12
	}
	d := (sharps(a) - sharps(b) + 12) % 12
	return min(d, 12-d)
}

// holder knows what the easiest shapes of chords cost to hold.
type holder struct {
	ins   fretboard.Instrument
	known map[string]float64
}

// of is the sum over some chords; infinite where one has no shape.
func (h holder) of(chords []string) (sum float64) {
	for _, symbol := range chords {
		cost, ok := h.known[symbol]
		if !ok {
			if cost, ok = holding(h.ins, []string{symbol}); !ok {
				cost = math.Inf(1)
			}
			h.known[symbol] = cost
		}
		sum += cost
	}
	return sum
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
