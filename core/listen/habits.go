package listen

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/say"
)

// What counts as a fault of a whole take, from memory.
const (
	unevenDB  = 3.5 // scatter of loudness at one place
	soundDB   = 6.0 // the same in a recording, where other strings ring on
	swingPart = 1.0 / 6
	mostMuch  = 0.8 // as many too much, against those that were found, are no take of it either
	leastPart = 0.4 // of what is asked for: less that was found is no take of it
)

// where is a place of the figure for a part of the hand.
type where struct {
	in, slot int
	by       bind.Hand
}

// tally is what became of a place, round by round.
type tally struct {
	offs          []float64
	louds         []float64 // dB
	missed, other int
	offbeat, beat bool
	at            float64 // in its bar, as asked for
}

func (t tally) rounds() int { return len(t.offs) + t.missed + t.other }

// measure finds faults and evenness.
func (h *Hearing) measure(c course, m *matcher, end float64) {
	places := map[where]*tally{}
	var order []where
	found, due, much := 0, 0, 0
	extras := map[[2]int]int{}
	for _, s := range h.Strokes {
		if s.State == Extra {
			much++
			extras[[2]int{s.Bar % len(h.score.Figure.Bars), s.Slot}]++
			continue
		}
		st := h.score.Strokes[s.Asked]
		at := where{st.In, st.Slot, st.By}
		if places[at] == nil {
			places[at] = &tally{offbeat: st.Offbeat, beat: st.OnBeat, at: st.At - float64(st.Bar)*h.score.BarMS()}
			order = append(order, at)
		}
		p := places[at]
		due++
		switch s.State {
		case Missed:
			p.missed++
		case Other:
			p.other++
			found++
		default:
			found++
			p.offs = append(p.offs, s.Off)
			if loud := m.loud[s.Asked]; loud > 0 {
				p.louds = append(p.louds, 20*math.Log10(loud))
			}
		}
	}
	if due == 0 || float64(found) < leastPart*float64(due) || float64(much) > mostMuch*float64(found) {
		h.CannotTell = append(h.CannotTell, ThePattern)
		return
	}
	slices.SortFunc(order, func(a, b where) int { return (a.in-b.in)*1000 + a.slot - b.slot })
	var around, scatter []float64
	for _, at := range order {
		p := places[at]
		mid := middle(p.offs)
		for _, o := range p.offs {
			around = append(around, math.Abs(o-mid))
		}
		if len(p.louds) >= 3 {
			scatter = append(scatter, deviation(p.louds))
		}
	}
	if len(around) > 0 {
		slices.Sort(around)
		h.Evenness = around[min(len(around)-1, len(around)*9/10)]
	}
	for _, at := range order {
		p := places[at]
		h.places = append(h.places, Place{at.in, at.slot, p.at, at.by, middle(p.offs), p.rounds(), len(p.offs), p.other})
	}
	swung := h.swung(places)
	for _, at := range order {
		h.place(at, *places[at], swung)
	}
	for _, at := range slices.SortedFunc(maps.Keys(extras), func(a, b [2]int) int { return slices.Compare(a[:], b[:]) }) {
		n := extras[at]
		if rounds := h.roundsOf(at[0], end); n >= 2 && 2*n > rounds {
			h.fault(Fault{IsExtra, at[0], at[1], 0, n, rounds, "", ""}, "an extra note at "+spotOf(h.score.Figure, at[0], at[1]))
		}
	}
	h.waits(c, end)
	switch {
	case swung < 0:
		h.Faults = append(h.Faults, Fault{IsStraight, -1, -1, math.Round(swung), 0, 0, fmt.Sprintf("the off-beats are straight, %.0f ms early for a swing", -swung), ""})
	case swung > 0:
		h.Faults = append(h.Faults, Fault{IsSwung, -1, -1, math.Round(swung), 0, 0, fmt.Sprintf("the off-beats are swung, %.0f ms late", swung), ""})
	}
	most := unevenDB
	if m.sound {
		most = soundDB
	}
	if uneven := middle(scatter); uneven > most {
		h.Faults = append(h.Faults, Fault{IsUneven, -1, -1, 0, 0, 0, fmt.Sprintf("notes differ in loudness, by %.0f dB", uneven), ""})
	}
	switch {
	case h.Drift <= -leastDrift:
		h.Faults = append(h.Faults, Fault{Slows, -1, -1, 0, 0, 0, fmt.Sprintf("it slows down by %.0f BPM", -h.Drift), ""})
	case h.Drift >= leastDrift:
		h.Faults = append(h.Faults, Fault{SpeedsUp, -1, -1, 0, 0, 0, fmt.Sprintf("it speeds up by %.0f BPM", h.Drift), ""})
	}
}

// place says what happens at a place in most rounds.
func (h *Hearing) place(at where, p tally, swung float64) {
	spot, of := spotOf(h.score.Figure, at.in, at.slot), p.rounds()
	switch {
	case at.by == bind.ByThumb && h.shared(at):
		spot = "the thumb on " + spot
	case at.by == bind.ByFingers && h.shared(at):
		spot = "the fingers’ note on " + spot
	case spot[0] >= '0' && spot[0] <= '9' && h.score.Figure.HasStrums():
		spot = "the strum on " + spot
	case spot[0] >= '0' && spot[0] <= '9':
		spot = "the note on " + spot
	}
	mid := middle(p.offs)
	same := 0
	for _, o := range p.offs {
		if math.Abs(o) > onTime && o*mid > 0 {
			same++
		}
	}
	switch {
	case p.missed >= rounds && 2*p.missed > of:
		h.fault(Fault{IsMissed, at.in, at.slot, 0, p.missed, of, "", ""}, spot+" is left out")
	case p.other >= rounds && 2*p.other > of:
		h.fault(Fault{IsOther, at.in, at.slot, 0, p.other, of, "", ""}, spot+" is on another string")
	case swung != 0 && p.offbeat:
	case same >= rounds && 2*same > of && mid < 0:
		h.fault(Fault{IsEarly, at.in, at.slot, math.Round(mid), same, of, "", ""}, fmt.Sprintf("%s comes early, %.0f ms", spot, -mid))
	case same >= rounds && 2*same > of:
		h.fault(Fault{IsLate, at.in, at.slot, math.Round(mid), same, of, "", ""}, fmt.Sprintf("%s comes late, %.0f ms", spot, mid))
	}
}

// roundsSay is in how many rounds something was so.
func roundsSay(n, of int) string {
	if of == 1 {
		return "the one time it comes"
	}
	return fmt.Sprintf("%d of %d rounds", n, of)
}

func (h *Hearing) fault(f Fault, says string) {
	f.Says = says + ", " + roundsSay(f.Rounds, f.Of)
	h.Faults = append(h.Faults, f)
}

// shared reports a place at which another part of the hand plays, too.
func (h *Hearing) shared(at where) bool {
	return slices.ContainsFunc(h.score.Strokes, func(s Stroke) bool { return s.In == at.in && s.Slot == at.slot && s.By != at.by })
}

// swung is by how many milliseconds the off-beats are late where all of them are by about as much as in
// swing, and the beats are not; else 0.
func (h *Hearing) swung(places map[where]*tally) float64 {
	var mids []float64
	for _, p := range places {
		switch mid := middle(p.offs); {
		case p.offbeat && len(p.offs) > 0:
			mids = append(mids, mid)
		case p.beat && math.Abs(mid) > onTime:
			return 0
		}
	}
	full, sign := swingPart*h.score.BeatMS(), 1.0
	if h.score.Figure.Swing {
		sign = -1
	}
	if len(mids) == 0 || full < onTime {
		return 0
	}
	for _, mid := range mids {
		if sign*mid < 0.5*full || sign*mid > 1.5*full {
			return 0
		}
	}
	return middle(mids)
}

// roundsOf is how often a bar of the figure comes up to the end.
func (h *Hearing) roundsOf(in int, end float64) (n int) {
	for bar := range h.score.Bars {
		if bar%len(h.score.Figure.Bars) == in && float64(bar)*h.score.BarMS() <= end {
			n++
		}
	}
	return n
}

// waits says before which chords the take stops.
func (h *Hearing) waits(c course, end float64) {
	asked := h.score.asked(0)
	type change struct {
		in, slot int
		into     string
	}
	waited, of := map[change][]float64{}, map[change]int{}
	var order []change
	into := func(i int) (change, bool) {
		if i < 0 || i >= len(asked) {
			return change{}, false
		}
		st := h.score.Strokes[asked[i].members[0]]
		return change{st.In, st.Slot, st.Into}, st.Into != ""
	}
	for i := range asked {
		if asked[i].at > end+1e-6 {
			break
		}
		if ch, changes := into(i); changes {
			if of[ch] == 0 {
				order = append(order, ch)
			}
			of[ch]++
		}
	}
	for _, s := range c.stops {
		for _, near := range []int{s.asked, s.asked + 1, s.asked - 1} { // what is left out at a change hides it by one
			if ch, changes := into(near); changes {
				waited[ch] = append(waited[ch], s.ms)
				break
			}
		}
	}
	for _, ch := range order {
		if n := len(waited[ch]); n >= rounds && 2*n > of[ch] || n == 1 && of[ch] == 1 {
			ms := middle(waited[ch])
			h.Faults = append(h.Faults, Fault{Stops, ch.in, ch.slot, math.Round(ms), n, of[ch], fmt.Sprintf("into %s: stops %.1f s, %s", ch.into, ms/1000, roundsSay(n, of[ch])), ch.into})
		}
	}
}

// Sentence is what a teacher would say first.
func (h Hearing) Sentence() string {
	switch {
	case h.silent:
		return "I heard nothing. Is the microphone on, and near the strings?"
	case slices.Contains(h.CannotTell, ThePattern):
		return "I can’t find the pattern in this take. Play it again, more slowly, with no one else playing."
	}
	text := fmt.Sprintf("Even within %.0f ms.", math.Ceil(max(0, h.Evenness-0.05)))
	if math.Abs(h.Tempo-float64(h.asked)) > tempoOff {
		text = fmt.Sprintf("Played at %.0f, not %d. %s", h.Tempo, h.asked, text)
	}
	switch {
	case h.Cents != 0:
		text = fmt.Sprintf("Tune first: it’s %.0f cents %s. I can’t tell the strings apart like this. %s", math.Abs(h.Cents), map[bool]string{true: "sharp", false: "flat"}[h.Cents > 0], text)
	case slices.Contains(h.CannotTell, TheStrings):
		text = "I can’t tell the strings: is there another tuning, a capo, or someone else playing? " + text
	}
	if h.From > 0 {
		text += fmt.Sprintf(" It starts at bar %d.", h.From+1)
	}
	text += barsSay(h.Again, "played again") + barsSay(h.Left, "left out")
	named := h.named()
	for i, says := range named {
		if i == mostNamed {
			break
		}
		text += " " + upper(says) + "."
	}
	if len(named) == 0 {
		for _, part := range []string{
			counted(h.count(Missed), "note is missing", "notes are missing"), counted(h.count(Other), "note is on another string", "notes are on another string"),
			counted(h.count(Extra), "extra note", "extra notes"),
		} {
			if part != "" {
				text += " " + upper(part) + "."
			}
		}
	}
	return text
}

// What a sentence names at most, and by how many BPM a tempo is another.
const (
	mostNamed = 3
	tempoOff  = 3.0
)

// named are the faults as they are said: what holds for all off-beats, or for the thumb everywhere, is said once.
func (h Hearing) named() (list []string) {
	said := map[Kind]bool{}
	for _, f := range h.Faults {
		if said[f.Kind] {
			continue
		}
		if all := h.everywhere(f.Kind); all != "" {
			list = append(list, all)
			said[f.Kind] = true
			continue
		}
		list = append(list, f.Says)
	}
	return list
}

// everywhere is what is said of a kind where all off-beats, or all strokes of the thumb, have it and nothing else does.
func (h Hearing) everywhere(kind Kind) string {
	if kind != IsEarly && kind != IsLate {
		return ""
	}
	has := map[[2]int]bool{}
	sum := 0.0
	for _, f := range h.Faults {
		if f.Kind == kind {
			has[[2]int{f.Bar, f.Slot}] = true
			sum += math.Abs(f.MS)
		}
	}
	if len(has) < 2 {
		return ""
	}
	for _, group := range []struct {
		name string
		is   func(Stroke) bool
	}{{"the off-beats come", func(s Stroke) bool { return s.Offbeat }}, {"the thumb comes", func(s Stroke) bool { return s.By == bind.ByThumb }}} {
		theirs := map[[2]int]bool{}
		for _, st := range h.score.Strokes {
			if group.is(st) {
				theirs[[2]int{st.In, st.Slot}] = true
			}
		}
		if maps.Equal(has, theirs) {
			return fmt.Sprintf("%s %s, about %.0f ms, most rounds", group.name, kind, sum/float64(len(has)))
		}
	}
	return ""
}

// barsSay says what became of bars, counted from 0.
func barsSay(bars []int, what string) string {
	if len(bars) == 0 {
		return ""
	}
	var names []string
	for _, bar := range bars {
		names = append(names, fmt.Sprint(bar+1))
	}
	if len(names) == 1 {
		return fmt.Sprintf(" Bar %s is %s.", names[0], what)
	}
	return fmt.Sprintf(" Bars %s are %s.", say.And(names), what)
}

func counted(n int, one, many string) string {
	if n == 0 {
		return ""
	}
	return say.Count(n, one, many)
}

func (h Hearing) count(state State) (n int) {
	for _, s := range h.Strokes {
		if s.State == state {
			n++
		}
	}
	return n
}
