package pattern

import (
	"slices"
)

// Coordination is something that a right hand learns once and uses in many figures.
type Coordination string

// coordinations are the table of them with their words and where they are found.
// Source: common practice.
var coordinations = []struct {
	ID   Coordination
	Name string
	in   func(Pattern) bool
}{
	{"alternating-thumb", "the alternating thumb", func(p Pattern) bool { return p.UsesTarget(Alternate, "p") || p.UsesTarget(Alternate, "DU") }},
	{"low-fifth", "the low fifth", func(p Pattern) bool { return p.UsesTarget(LowFifth, "pDU") }},
	{"between-the-thumb", "finger notes between the thumb’s beats", betweenThumbs},
	{"roll", "a roll", rolls},
	{"pinch", "pinches", func(p Pattern) bool { return p.slotWith(2, true) }},
	{"pair", "pairs", func(p Pattern) bool { return p.slotWith(2, false) }},
	{"down-up", "down-up strums", func(p Pattern) bool { return p.Uses(Up) && !p.Uses(Thumb) && !p.UsesTarget(Root, "DU") }},
	{"missed-strum", "missed strums", missesStrums},
	{"bass-and-strum", "bass and strum", func(p Pattern) bool {
		return p.HasStrums() && (p.Uses(Thumb) || p.UsesTarget(Root, "DU")) && !p.Uses(Nails)
	}},
	{"eighth-downs", "downs on every eighth", func(p Pattern) bool { return p.HasStrums() && !p.Uses(Up) && offBeat(p, Down) }},
	{"accents", "accents", func(p Pattern) bool { return p.marked(Accent) }},
	{"chuck", "chucks and stops", func(p Pattern) bool { return p.marked(Chuck) || p.stops() }},
	{"nails", "nails and palm hits", func(p Pattern) bool { return p.Uses(Nails) || p.Uses(Knock) }},
	{"palm", "palm muting", func(p Pattern) bool { return p.marked(PalmMuted) }},
	{"swing", "swing", func(p Pattern) bool { return p.Swing }},
	{"sixteenths", "sixteenths", func(p Pattern) bool { return !p.Meter.Compound() && p.SlotsPerBeat() == 4 }},
	{"threes", "three notes to a beat", func(p Pattern) bool { return p.SlotsPerBeat() == 3 && filledThirds(p) }},
	{"sweep", "sweeps", func(p Pattern) bool { return p.Uses(Sweep) }},
	{"pick", "a pick on single strings", func(p Pattern) bool { return p.UsesTarget(Root, "DU") || p.UsesTarget(Given, "DU") }},
	{"zones", "zones", func(p Pattern) bool { return p.UsesTarget(BassZone, "DU") }},
	{"two-bars", "two bars that differ", func(p Pattern) bool { return len(p.Bars) > 1 }},
}

// Coordinations are those that a figure needs, in the order of the table.
func (p Pattern) Coordinations() (list []Coordination) {
	for _, c := range coordinations {
		if c.in(p) {
			list = append(list, c.ID)
		}
	}
	return list
}

// String is what a coordination is called.
func (c Coordination) String() string {
	for _, row := range coordinations {
		if row.ID == c {
			return row.Name
		}
	}
	return string(c)
}

// slotWith reports a slot in which some fingers sound together, with the thumb or
// without it.
func (p Pattern) slotWith(fingers int, thumb bool) bool {
	return p.anySlot(func(_ int, s Slot) bool {
		n := 0
		for _, st := range s.Strokes {
			if st.Sign.Finger() {
				n++
			}
		}
		_, has := s.Find(Thumb)
		return n >= fingers && has == thumb
	})
}

func (p Pattern) anySlot(is func(slot int, s Slot) bool) bool {
	for _, bar := range p.Bars {
		for i, s := range bar {
			if is(i, s) {
				return true
			}
		}
	}
	return false
}

func (p Pattern) marked(m Marks) bool {
	return slices.ContainsFunc(p.strokes(), func(st Stroke) bool { return st.Marks.Has(m) })
}

func (p Pattern) stops() bool { return p.anySlot(func(_ int, s Slot) bool { return s.Stop }) }

func offBeat(p Pattern, sign Sign) bool {
	return p.anySlot(func(i int, s Slot) bool {
		_, has := s.Find(sign)
		return has && !p.OnBeat(i)
	})
}

// betweenThumbs reports finger notes off the beat under a thumb that keeps it.
func betweenThumbs(p Pattern) bool {
	for _, bar := range p.Bars {
		thumbs, notes := 0, 0
		for i, s := range bar {
			if _, thumb := s.Find(Thumb); thumb && p.OnBeat(i) {
				thumbs++
			} else if !thumb && !p.OnBeat(i) && slices.ContainsFunc(s.Strokes, func(st Stroke) bool { return st.Sign.Finger() }) {
				notes++
			}
		}
		if thumbs >= 3 && notes > 0 {
			return true
		}
	}
	return false
}

// rolls reports three different fingers one after the other.
func rolls(p Pattern) bool {
	for _, bar := range p.Bars {
		run := []Sign{}
		for _, s := range bar {
			if len(s.Strokes) != 1 || !s.Strokes[0].Sign.Finger() {
				if len(s.Strokes) > 0 {
					run = nil
				}
				continue
			}
			if sign := s.Strokes[0].Sign; slices.Contains(run, sign) {
				run = []Sign{sign}
			} else if run = append(run, sign); len(run) >= 3 {
				return true
			}
		}
	}
	return false
}

func missesStrums(p Pattern) bool {
	return p.Uses(Up) && !p.Uses(Thumb) && p.anySlot(func(i int, s Slot) bool { return p.OnBeat(i) && s.Empty() })
}

// filledThirds reports that something sounds between the beats.
func filledThirds(p Pattern) bool {
	return p.anySlot(func(i int, s Slot) bool { return !p.OnBeat(i) && len(s.Strokes) > 0 })
}
