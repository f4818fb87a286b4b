package skill

import (
	"slices"

	"arplin/core/pattern"
)

// Coordination is something that a right hand learns once and uses in many figures.
type Coordination string

// coordinations are the table of them with their words and where they are found.
// Source: common practice.
var coordinations = []struct {
	ID   Coordination
	Name string
	in   func(pattern.Pattern) bool
}{
	{"alternating-thumb", "the alternating thumb", func(p pattern.Pattern) bool {
		return p.UsesTarget(pattern.Alternate, "p") || p.UsesTarget(pattern.Alternate, "DU")
	}},
	{"low-fifth", "the low fifth", func(p pattern.Pattern) bool { return p.UsesTarget(pattern.LowFifth, "pDU") }},
	{"between-the-thumb", "finger notes between the thumb’s beats", betweenThumbs},
	{"roll", "a roll", rolls},
	{"pinch", "pinches", func(p pattern.Pattern) bool { return slotWith(p, 2, true) }},
	{"pair", "pairs", func(p pattern.Pattern) bool { return slotWith(p, 2, false) }},
	{"down-up", "down-up strums", func(p pattern.Pattern) bool {
		return p.Uses(pattern.Up) && !p.Uses(pattern.Thumb) && !p.UsesTarget(pattern.Root, "DU")
	}},
	{"missed-strum", "missed strums", missesStrums},
	{"bass-and-strum", "bass and strum", func(p pattern.Pattern) bool {
		return p.HasStrums() && (p.Uses(pattern.Thumb) || p.UsesTarget(pattern.Root, "DU")) && !p.Uses(pattern.Nails)
	}},
	{"eighth-downs", "downs on every eighth", func(p pattern.Pattern) bool { return p.HasStrums() && !p.Uses(pattern.Up) && offBeat(p, pattern.Down) }},
	{"accents", "accents", func(p pattern.Pattern) bool { return marked(p, pattern.Accent) }},
	{"chuck", "chucks and stops", func(p pattern.Pattern) bool { return marked(p, pattern.Chuck) || stops(p) }},
	{"nails", "nails and palm hits", func(p pattern.Pattern) bool { return p.Uses(pattern.Nails) || p.Uses(pattern.Knock) }},
	{"palm", "palm muting", func(p pattern.Pattern) bool { return marked(p, pattern.PalmMuted) }},
	{"swing", "swing", func(p pattern.Pattern) bool { return p.Swing }},
	{"sixteenths", "sixteenths", func(p pattern.Pattern) bool { return !p.Meter.Compound() && p.SlotsPerBeat() == 4 }},
	{"threes", "three notes to a beat", func(p pattern.Pattern) bool { return p.SlotsPerBeat() == 3 && filledThirds(p) }},
	{"sweep", "sweeps", func(p pattern.Pattern) bool { return p.Uses(pattern.Sweep) }},
	{"pick", "a pick on single strings", func(p pattern.Pattern) bool {
		return p.UsesTarget(pattern.Root, "DU") || p.UsesTarget(pattern.Given, "DU")
	}},
	{"zones", "zones", func(p pattern.Pattern) bool { return p.UsesTarget(pattern.BassZone, "DU") }},
	{"two-bars", "two bars that differ", func(p pattern.Pattern) bool { return len(p.Bars) > 1 }},
}

// Coordinations are those that a figure needs, in the order of the table.
func Coordinations(p pattern.Pattern) (list []Coordination) {
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
func slotWith(p pattern.Pattern, fingers int, thumb bool) bool {
	return p.AnySlot(func(_ int, s pattern.Slot) bool {
		n := 0
		for _, st := range s.Strokes {
			if st.Sign.Finger() {
				n++
			}
		}
		_, has := s.Find(pattern.Thumb)
		return n >= fingers && has == thumb
	})
}

func marked(p pattern.Pattern, m pattern.Marks) bool {
	return p.AnySlot(func(_ int, s pattern.Slot) bool {
		return slices.ContainsFunc(s.Strokes, func(st pattern.Stroke) bool { return st.Marks.Has(m) })
	})
}

func stops(p pattern.Pattern) bool {
	return p.AnySlot(func(_ int, s pattern.Slot) bool { return s.Stop })
}

func offBeat(p pattern.Pattern, sign pattern.Sign) bool {
	return p.AnySlot(func(i int, s pattern.Slot) bool {
		_, has := s.Find(sign)
		return has && !p.OnBeat(i)
	})
}

// betweenThumbs reports finger notes off the beat under a thumb that keeps it.
func betweenThumbs(p pattern.Pattern) bool {
	for _, bar := range p.Bars {
		thumbs, notes := 0, 0
		for i, s := range bar {
			if _, thumb := s.Find(pattern.Thumb); thumb && p.OnBeat(i) {
				thumbs++
			} else if !thumb && !p.OnBeat(i) && slices.ContainsFunc(s.Strokes, func(st pattern.Stroke) bool { return st.Sign.Finger() }) {
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
func rolls(p pattern.Pattern) bool {
	for _, bar := range p.Bars {
		run := []pattern.Sign{}
		for _, s := range bar {
			if len(s.Strokes) != 1 || !s.Strokes[0].Sign.Finger() {
				if len(s.Strokes) > 0 {
					run = nil
				}
				continue
			}
			if sign := s.Strokes[0].Sign; slices.Contains(run, sign) {
				run = []pattern.Sign{sign}
			} else if run = append(run, sign); len(run) >= 3 {
				return true
			}
		}
	}
	return false
}

func missesStrums(p pattern.Pattern) bool {
	return p.Uses(pattern.Up) && !p.Uses(pattern.Thumb) && p.AnySlot(func(i int, s pattern.Slot) bool { return p.OnBeat(i) && s.Empty() })
}

// filledThirds reports that something sounds between the beats.
func filledThirds(p pattern.Pattern) bool {
	return p.AnySlot(func(i int, s pattern.Slot) bool { return !p.OnBeat(i) && len(s.Strokes) > 0 })
}
