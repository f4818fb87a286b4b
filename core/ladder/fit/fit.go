package fit

import (
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/pattern/skill"
	"arplin/core/song"
	"arplin/core/song/keys"
)

// Fit is how well a pattern of the catalogue suits a song and a class.
type Fit struct {
	catalogue.Entry
	Score   float64  // the higher the better
	Reasons []string // clauses, the weightiest first
}

// Learners is what is known of a class when a figure is chosen for it.
type Learners struct {
	Players []keys.Players
	Heard   []Heard           // in the order of the class
	Had     []pattern.Pattern // figures that it has learned
	Task    difficulty.Task   // the song on the class's first instrument; its figure does not matter
	Weights difficulty.Weights
}

// Heard is a student with the level of the hardest thing that was played clean; 0 where
// nothing was heard.
type Heard struct {
	Name  string
	Level float64
}

// What the reasons weigh, from memory.
const (
	outsideTempo = 4.0
	otherFeel    = 4.0
	sameFeel     = 5.0
	near         = 0.6 // of another family, it comes forward where it is no further behind than this
	forNobody    = 4.0
	newThing     = 1.5 // one coordination that the class has not had
	manyNew      = 1.0 // taken off for each beyond the second
	joining      = 2.0 // times the share of those heard who could play it at some step beyond the first half
	changeHeld   = 0.8 // something sounds where the chord changes inside a bar
	roomToChange = 0.5
	manyChanges  = 30.0 // chord changes a minute that leave no time to spare
	sameHand     = 1.0  // where all that the class has had is plucked, or strummed
	forFirst     = 0.8  // for each level away from one that is soon learned, where nothing is known of the class
	soon         = 2.4  // such a level
	technique    = 0.8  // a chuck, a stop, a brush in a first figure; a pinch half of it
	easier       = 1.5  // at most, for a figure below what the class has had
	farBeyond    = 0.8  // for each level more than one above it
	firstPlaces  = 6    // are of different families
)

// Fits orders the patterns of the song's meter, the best first, with the reasons that
// tell them apart; the first few are of different families.
func Fits(sg song.Song, l Learners) []Fit {
	f := fitter{song: sg, class: l, had: map[skill.Coordination]bool{}, hardest: hardestHad(l)}
	for _, p := range l.Had {
		for _, c := range skill.Coordinations(p) {
			f.had[c] = true
		}
	}
	for _, p := range l.Players {
		f.changes = max(f.changes, sg.LeftHandOn(p.Instrument).ChangesPerMinute)
	}
	f.inside = changesInside(sg)
	var fits []Fit
	for _, e := range catalogue.InMeter(sg.Meter) {
		fits = append(fits, f.of(e))
	}
	slices.SortStableFunc(fits, func(a, b Fit) int { return cmp.Compare(b.Score, a.Score) })
	return familiesFirst(fits)
}

// familiesFirst moves figures of families that are not there yet forward into the first places, where
// they are hardly behind: not one of each at any price.
func familiesFirst(fits []Fit) []Fit {
	var ahead []Fit
	rest := slices.Clone(fits)
	seen := map[string]bool{}
	for len(ahead) < firstPlaces && len(rest) > 0 {
		next := max(0, slices.IndexFunc(rest, func(f Fit) bool { return !seen[f.Family] && f.Score >= rest[0].Score-near }))
		seen[rest[next].Family] = true
		ahead, rest = append(ahead, rest[next]), slices.Delete(rest, next, next+1)
	}
	return append(ahead, rest...)
}

// fitter is what is the same for every pattern.
type fitter struct {
	song    song.Song
	class   Learners
	had     map[skill.Coordination]bool
	changes float64        // a minute
	hardest float64        // of the figures that the class has had, a level
	inside  map[int]string // ticks in a bar at which chords change, with how often that is said
}

// changesInside are the places inside bars at which chords change.
func changesInside(sg song.Song) map[int]string {
	counts := map[int]int{}
	for _, bar := range sg.Bars() {
		tick := 0
		for i, ch := range bar.Changes {
			if i > 0 && bar.Meter == (pattern.Meter{}) {
				counts[tick]++
			}
			tick += ch.Ticks
		}
	}
	said := map[int]string{}
	for tick, n := range counts {
		said[tick] = fmt.Sprintf("%d bars", n)
		if n == 1 {
			said[tick] = "1 bar"
		}
	}
	return said
}

// reason is a clause with what it is worth.
type reason struct {
	points float64
	says   string
}

func (f fitter) of(e catalogue.Entry) Fit {
	var reasons []reason
	say := func(points float64, format string, args ...any) {
		reasons = append(reasons, reason{points, fmt.Sprintf(format, args...)})
	}
	f.tempo(e, say)
	for _, p := range f.class.Players {
		if !slices.Contains(e.Instruments, string(p.Instrument.Family)) {
			say(-forNobody, "not for %s", string(p.Instrument.Family))
		}
	}
	f.feels(e, say)
	f.brings(e, say)
	f.hand(e, say)
	f.joins(e, say)
	f.lies(e, say)
	fit := Fit{Entry: e}
	slices.SortStableFunc(reasons, func(a, b reason) int { return cmp.Compare(math.Abs(b.points), math.Abs(a.points)) })
	for _, r := range reasons {
		fit.Score += r.points
		if r.says != "" {
			fit.Reasons = append(fit.Reasons, r.says)
		}
	}
	return fit
}

// feels holds the figure's feel against the song's: that comes before anything else. What has nothing
// between the beats fits both.
func (f fitter) feels(e catalogue.Entry, say sayer) {
	switch {
	case !e.Pattern.OffBeat():
	case f.song.Swing != e.Pattern.Swing:
		say(-otherFeel, "%s, and the song is not", e.Feel)
	case f.song.Swing:
		say(sameFeel, "it swings, as the song does")
	}
}

type sayer func(points float64, format string, args ...any)

// tempo is where in its range the song's lies.
func (f fitter) tempo(e catalogue.Entry, say sayer) {
	low, high, now := float64(e.Tempo[0]), float64(e.Tempo[1]), float64(f.song.Tempo)
	at := (now - low) / max(1, high-low)
	switch {
	case at < 0:
		say(-outsideTempo, "the song at %d is slower than it likes (%d to %d)", f.song.Tempo, e.Tempo[0], e.Tempo[1])
	case at > 1:
		say(-outsideTempo, "the song at %d is faster than it likes (%d to %d)", f.song.Tempo, e.Tempo[0], e.Tempo[1])
	case at < 0.25:
		say(0.3, "%d is slow for it: room to listen", f.song.Tempo)
	case at > 0.8:
		say(-0.3, "%d is near its fastest, %d", f.song.Tempo, e.Tempo[1])
	default:
		say(0.5, "")
	}
}

// brings names the coordinations that the class has not had.
func (f fitter) brings(e catalogue.Entry, say sayer) {
	var fresh []string
	for _, c := range skill.Coordinations(e.Pattern) {
		if !f.had[c] {
			fresh = append(fresh, c.String())
		}
	}
	switch n := len(fresh); {
	case n == 0 && len(f.class.Had) == 0:
		say(newThing/2, "one even motion, a first pattern")
	case n == 0:
		say(0, "nothing that the class has not had")
	case n == 1:
		say(newThing, "brings one new thing: %s", fresh[0])
	case n == 2:
		say(newThing/2, "brings %s and %s", fresh[0], fresh[1])
	default:
		say(-manyNew*float64(n-2), "much that is new: %s and %s", strings.Join(fresh[:n-1], ", "), fresh[n-1])
	}
}

// joins says on which step who could begin now.
func (f fitter) joins(e catalogue.Entry, say sayer) {
	t := f.class.Task
	t.Pattern = e.Pattern
	steps := grow.OnOneChord(order.Choice{}, t, f.class.Weights)
	heard, whole, low, lowest := 0, 0, len(steps), ""
	points := 0.0
	for _, h := range f.class.Heard {
		if h.Level == 0 {
			continue
		}
		heard++
		at := ladder.Reach(steps, h.Level)
		if at == len(steps)-1 {
			whole++
		}
		if points += float64(at+1) / float64(len(steps)); at < low {
			low, lowest = at, h.Name
		}
	}
	switch {
	case heard == 0 && len(f.class.Had) == 0: // nothing is known of them: what carries a song and is soon learned
		say(-forFirst*math.Abs(steps[len(steps)-1].Level-soon), "")
		if own := ownTechnique(e.Pattern); own > 0 {
			say(-own, "")
		}
	case heard == 0:
		f.afterHad(steps[len(steps)-1].Level, say)
		if own := ownTechnique(e.Pattern); own > 0 {
			say(-own/2, "")
		}
	case whole == heard:
		say(joining*points/float64(heard)-1, "everyone with a logged tempo can play it on one chord now")
	case whole == 0:
		say(joining*points/float64(heard)-1, "%s would begin on step %d of %d", lowest, low+1, len(steps))
	default:
		say(joining*points/float64(heard)-1, "%d can play it on one chord now, %s would begin on step %d of %d", whole, lowest, low+1, len(steps))
	}
}

// lies says how the figure lies with the chord changes.
func (f fitter) lies(e catalogue.Entry, say sayer) {
	p := e.Pattern
	for _, tick := range slices.Sorted(maps.Keys(f.inside)) {
		slot := tick / p.SlotTicks()
		if tick%p.SlotTicks() != 0 || slot >= p.Grid() {
			continue
		}
		if len(p.Bars[0][slot].Strokes) > 0 {
			say(changeHeld, "") // most figures do
		} else {
			say(-changeHeld, "nothing sounds on %s, where the chord changes in %s", p.Spot(slot), f.inside[tick])
		}
	}
	if f.changes <= manyChanges {
		return
	}
	last := p.Bars[len(p.Bars)-1]
	if last[len(last)-1].Empty() {
		say(roomToChange, "leaves room for the change, %.0f times a minute", f.changes)
	} else {
		say(-roomToChange, "leaves no room for the change, %.0f times a minute", f.changes)
	}
}
