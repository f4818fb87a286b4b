package bind

import (
	"slices"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/theory"
)

// Struck is what sounds in a slot, as tablature has it.
type Struck struct {
	Strings   []fretboard.String
	Direction string // of a strum: "down", "up"; empty where it is not said
}

// Unbind is the inverse of a binding: the strokes that sound so on a shape, with the fingers that
// a school would take. A stroke has a string number only where the school's rules say another
// string. All bars have as many slots as the grid.
func Unbind(ins fretboard.Instrument, school School, m pattern.Meter, bars [][]Struck, c theory.Chord, sh fretboard.Shape) pattern.Pattern {
	u := unbinder{ins: ins, school: school, root: fretboard.RootString(ins, c, sh), answer: alternateIn(ins, fretboard.RootString(ins, c, sh), c, sh), bars: bars, p: pattern.Pattern{Meter: m}}
	u.fingers()
	for _, bar := range bars {
		slots := make(pattern.Bar, len(bar))
		for i, s := range bar {
			slots[i].Strokes = u.strokes(i, s)
		}
		u.p.Bars = append(u.p.Bars, slots)
	}
	for range 4 { // a number on one stroke can change what the rules say of another
		if !u.number(c, sh, false) {
			return u.p
		}
	}
	u.number(c, sh, true)
	return u.p
}

type unbinder struct {
	ins    fretboard.Instrument
	school School
	root   fretboard.String
	answer fretboard.String // the alternate
	bars   [][]Struck
	p      pattern.Pattern
	by     map[fretboard.String]pattern.Sign // which finger takes a string
}

// strumFrom is how many strings at once are a strum where nothing else is said.
const strumFrom = 4

func (s Struck) strum() bool { return s.Direction != "" || len(s.Strings) >= strumFrom }

// thumb reports a string that is the thumb's. Source: common practice: on a guitar the three
// thick ones, and the alternate of a root on the fourth, where it is struck on a beat; on a
// ukulele the fourth, and the third where it answers it on a beat.
func (u unbinder) thumb(s fretboard.String, slot int, all []fretboard.String) bool {
	beat := slot%u.slotsPerBeat() == 0
	if u.ins.ThumbStays() {
		return s == 4 || s == 3 && beat && !slices.Contains(all, 4) && u.answers(3)
	}
	if s >= u.ins.Traits().Thick || s == u.root {
		return true
	}
	return s == u.answer && beat && !slices.Contains(all, u.root) && u.answers(s)
}

func (u unbinder) slotsPerBeat() int {
	if len(u.bars) == 0 {
		return 1
	}
	return max(1, u.p.Meter.SlotsPerBeat(len(u.bars[0])))
}

// answers reports a string that is never struck between the beats: the thumb goes to it in turns.
func (u unbinder) answers(s fretboard.String) bool {
	per := u.slotsPerBeat()
	for _, bar := range u.bars {
		for i, at := range bar {
			if !at.strum() && i%per != 0 && slices.Contains(at.Strings, s) {
				return false
			}
		}
	}
	return true
}

// fingers gives each string that is not the thumb's a finger: i m a from the thick side, the
// school of fixed fingers i on 3, m on 2, a on 1.
func (u *unbinder) fingers() {
	u.by = map[fretboard.String]pattern.Sign{}
	var used []fretboard.String
	for _, bar := range u.bars {
		for i, at := range bar {
			if at.strum() {
				continue
			}
			thumb := u.thumbString(i, at.Strings)
			for _, s := range at.Strings {
				if s != thumb && !slices.Contains(used, s) {
					used = append(used, s)
				}
			}
		}
	}
	slices.Sort(used)
	slices.Reverse(used) // the thickest first
	signs := []pattern.Sign{pattern.Index, pattern.Middle, pattern.Ring, pattern.Little}
	for i, s := range used {
		switch {
		case u.school.Fingers == Fixed && s <= 3:
			u.by[s] = signs[3-s]
		default:
			u.by[s] = signs[min(i, len(signs)-1)]
		}
	}
}

// thumbString is the one that the thumb takes in a slot: the thickest of its own; 0 for none.
func (u unbinder) thumbString(slot int, all []fretboard.String) (thumb fretboard.String) {
	for _, s := range all {
		if s > thumb && u.thumb(s, slot, all) {
			thumb = s
		}
	}
	return thumb
}

func (u unbinder) strokes(slot int, at Struck) (list []pattern.Stroke) {
	if len(at.Strings) == 0 {
		return nil
	}
	if at.strum() {
		sign := pattern.Down
		if at.Direction == "up" {
			sign = pattern.Up
		}
		return []pattern.Stroke{{Sign: sign}}
	}
	thumb := u.thumbString(slot, at.Strings)
	if thumb != 0 {
		list = append(list, pattern.Stroke{Sign: pattern.Thumb, Target: u.thumbTarget(thumb)})
	}
	strings := slices.Clone(at.Strings)
	slices.Sort(strings)
	slices.Reverse(strings)
	for _, s := range strings {
		if s == thumb {
			continue
		}
		sign := u.by[s]
		for slices.ContainsFunc(list, func(st pattern.Stroke) bool { return st.Sign == sign }) && sign != pattern.Little {
			sign = next(sign)
		}
		if !slices.ContainsFunc(list, func(st pattern.Stroke) bool { return st.Sign == sign }) {
			list = append(list, pattern.Stroke{Sign: sign})
		}
	}
	return list
}

func next(s pattern.Sign) pattern.Sign {
	return map[pattern.Sign]pattern.Sign{pattern.Index: pattern.Middle, pattern.Middle: pattern.Ring, pattern.Ring: pattern.Little}[s]
}

func (u unbinder) thumbTarget(s fretboard.String) pattern.Target {
	switch {
	case s == u.root || u.root == 0:
		return pattern.Target{}
	case s == u.answer:
		return pattern.Target{Kind: pattern.Alternate}
	}
	return pattern.Target{Kind: pattern.Given, Strings: pattern.Strings(int(s))}
}

// number writes a string number on the strokes that the rules put elsewhere, or on all single
// ones, and reports that it has written one.
func (u *unbinder) number(c theory.Chord, sh fretboard.Shape, all bool) (wrote bool) {
	bound := Pattern(u.ins, u.school, u.p, c, sh).Events
	for b, bar := range u.p.Bars {
		for i := range bar {
			strokes := bar[i].Strokes
			want := slices.Clone(u.bars[b][i].Strings)
			if u.bars[b][i].strum() || len(strokes) == 0 {
				if all || !u.across(bound, b, i, want) {
					wrote = u.numberStrum(strokes, want) || wrote
				}
				continue
			}
			slices.Sort(want)
			slices.Reverse(want) // strokes are from the thick string on
			for k := range strokes {
				if k >= len(want) {
					break
				}
				given := pattern.Target{Kind: pattern.Given, Strings: pattern.Strings(int(want[k]))}
				at := slices.IndexFunc(bound, func(e played.Event) bool { return e.Bar == b && e.Slot == i && e.Stroke.Sign == strokes[k].Sign })
				if strokes[k].Target != given && (all || at < 0 || bound[at].Strings[0] != want[k]) {
					strokes[k].Target, wrote = given, true
				}
			}
		}
	}
	return wrote
}

// across reports a strum that goes over just these strings.
func (u unbinder) across(bound []played.Event, bar, slot int, want []fretboard.String) bool {
	at := slices.IndexFunc(bound, func(e played.Event) bool { return e.Bar == bar && e.Slot == slot })
	if at < 0 {
		return len(want) == 0
	}
	has := slices.Clone(bound[at].Strings)
	slices.Sort(has)
	slices.Sort(want)
	return slices.Equal(has, want)
}

func (u unbinder) numberStrum(strokes []pattern.Stroke, want []fretboard.String) bool {
	if len(strokes) != 1 || !strokes[0].Sign.Strum() {
		return false
	}
	var numbers []int
	for _, s := range want {
		numbers = append(numbers, int(s))
	}
	given := pattern.Target{Kind: pattern.Given, Strings: pattern.Strings(numbers...)}
	if strokes[0].Target == given {
		return false
	}
	strokes[0].Target = given
	return true
}
