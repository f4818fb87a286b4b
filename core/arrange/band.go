package arrange

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
)

// PartKind is what a group plays in a pass.
type PartKind string

// The kinds, from nothing to the tune.
const (
	Rest    PartKind = "rest"
	BassOne PartKind = "bass"   // the root on one
	Once    PartKind = "chords" // each chord strummed once
	OnStep  PartKind = "step"   // a step of the ladder
	TheTune PartKind = "tune"   // the tune alone
)

// Part is what a group plays in a pass.
type Part struct {
	Kind PartKind      `json:"kind"`
	Step ladder.StepID `json:"step,omitempty"` // for OnStep
}

// Pass is a section where it comes in the song: which time it is played, from 1.
type Pass struct {
	Section song.SectionID `json:"section"`
	Time    int            `json:"time"`
}

// Passes are the sections as they are sung.
func Passes(sg song.Song) (list []Pass) {
	for _, at := range sg.Form() {
		p := Pass{sg.Sections[at.Section].ID, at.Pass}
		if len(list) == 0 || list[len(list)-1] != p {
			list = append(list, p)
		}
	}
	return list
}

// Rung is a step as an arrangement sees it.
type Rung struct {
	ID     ladder.StepID
	Name   string
	Level  float64
	Figure pattern.Pattern
}

// Group is some of the class who play the same; who they are is not the core's.
type Group struct {
	Name string
	Best int // the highest rung that all of them can play, from 0
}

// Band is who is there, and what there is to play.
type Band struct {
	Passes []Pass
	Groups []Group
	Rungs  []Rung // from the easiest
	Tune   Tune
}

// Tune is the tune alone; the zero value is a song without one.
type Tune struct {
	Level   float64
	Strokes float64 // a bar
}

// Levels of the parts that are no step; from memory.
const levelRest, levelBass, levelOnce = 1.0, 1.6, 2.4

// Level is how hard a part is.
func (b Band) Level(p Part) float64 {
	switch p.Kind {
	case BassOne:
		return levelBass
	case Once:
		return levelOnce
	case TheTune:
		return b.Tune.Level
	case OnStep:
		if i := b.rung(p.Step); i >= 0 {
			return b.Rungs[i].Level
		}
	}
	return levelRest
}

func (b Band) rung(id ladder.StepID) int {
	return slices.IndexFunc(b.Rungs, func(r Rung) bool { return r.ID == id })
}

// can is the level that a group plays clean.
func (b Band) can(g int) float64 {
	level := levelOnce
	if i := b.Groups[g].Best; i >= 0 && i < len(b.Rungs) {
		level = max(level, b.Rungs[i].Level)
	}
	return level
}

// rounded is by how much a level may be above another that a page shows as the same.
const rounded = 0.05

// Above reports a part that is more than a group plays clean.
func (b Band) Above(p Part, g int) bool { return b.Level(p) > b.can(g)+rounded }

// strokes are how many a part has in a bar.
func (b Band) strokes(p Part) float64 {
	switch p.Kind {
	case BassOne, Once:
		return 1
	case TheTune:
		return b.Tune.Strokes
	case OnStep:
		if i := b.rung(p.Step); i >= 0 {
			return float64(b.Rungs[i].Figure.Count()) / float64(len(b.Rungs[i].Figure.Bars))
		}
	}
	return 0
}

// has reports what a part brings: a bass, a middle, a beat.
func (b Band) has(p Part) (bass, middle, beat bool) {
	switch p.Kind {
	case BassOne:
		return true, false, false
	case Once:
		return false, true, false
	case OnStep:
		i := b.rung(p.Step)
		if i < 0 {
			return false, false, false
		}
		f := b.Rungs[i].Figure
		return f.Uses(pattern.Thumb), f.UsesFingers() || f.HasStrums(), onEveryBeat(f)
	}
	return false, false, false
}

// onEveryBeat reports a figure in which every beat is struck: one that the others can walk with.
func onEveryBeat(f pattern.Pattern) bool {
	for _, bar := range f.Bars {
		for i, slot := range bar {
			if f.OnBeat(i) && !slices.ContainsFunc(slot.Strokes, func(st pattern.Stroke) bool { return !st.Sign.Air() }) {
				return false
			}
		}
	}
	return true
}

// Cell is a part with why it was proposed.
type Cell struct {
	Part
	Why string
}

// How a song grows: what the first pass has of what everybody can; the rest comes in equal
// parts. From memory.
const firstShare = 0.35

// Propose lets the song grow from pass to pass: nobody above what they play clean, the tune in
// the second half where somebody can carry it, and in each pass a bass, a middle and a beat
// where the groups have them. It answers by pass, then by group.
func (b Band) Propose() [][]Cell {
	cells := make([][]Cell, len(b.Passes))
	for p := range b.Passes {
		share := 1.0
		if n := len(b.Passes); n > 1 {
			share = firstShare + (1-firstShare)*float64(p)/float64(n-1)
		}
		cells[p] = make([]Cell, len(b.Groups))
		for g, group := range b.Groups {
			cells[p][g] = b.grown(group, share)
		}
		if carries := b.carries(); carries >= 0 && 2*p >= len(b.Passes) {
			cells[p][carries] = Cell{Part{Kind: TheTune}, "they play the furthest step, and the others carry them"}
		}
		b.complete(cells[p])
	}
	return cells
}

func (b Band) grown(g Group, share float64) Cell {
	best := min(g.Best, len(b.Rungs)-1)
	if best < 0 {
		return Cell{Part{Kind: Once}, "they are on no step yet: each chord once"}
	}
	at := int(math.Round(share * float64(best)))
	why := "their own step"
	if at < best {
		why = "lighter than their own step, so that the song can grow"
	}
	return Cell{Part{OnStep, b.Rungs[at].ID}, why}
}

// carries is the group that can carry the tune: the furthest, where the tune is not above it and
// somebody else is there; -1 for none.
func (b Band) carries() int {
	furthest := -1
	for g := range b.Groups {
		if furthest < 0 || b.Groups[g].Best > b.Groups[furthest].Best {
			furthest = g
		}
	}
	if b.Tune.Level == 0 || len(b.Groups) < 2 || b.Tune.Level > b.can(furthest) {
		return -1
	}
	return furthest
}

// complete sees to it that a pass has a bass, a middle and a beat.
func (b Band) complete(cells []Cell) {
	if bass, _, _ := b.sum(cells); !bass && len(cells) > 0 {
		g := b.least(cells)
		cells[g] = Cell{Part{Kind: BassOne}, "somebody keeps the bass"}
	}
	if _, middle, _ := b.sum(cells); !middle && len(cells) > 1 {
		for g := len(cells) - 1; g >= 0; g-- {
			if cells[g].Kind != BassOne && cells[g].Kind != TheTune && b.onlyBass(cells[g].Part) && b.Groups[g].Best >= 0 && b.spare(cells, g) {
				cells[g] = Cell{Part{Kind: Once}, "somebody fills the middle with the chords"}
				return
			}
		}
	}
}

func (b Band) onlyBass(p Part) bool {
	_, middle, _ := b.has(p)
	return !middle
}

// spare reports that the bass is kept by another group than this.
func (b Band) spare(cells []Cell, but int) bool {
	for g, c := range cells {
		if bass, _, _ := b.has(c.Part); bass && g != but {
			return true
		}
	}
	return false
}

// least is the group that is the least far, and does not carry the tune.
func (b Band) least(cells []Cell) int {
	at := 0
	for g := range b.Groups {
		if cells[g].Kind != TheTune && (cells[at].Kind == TheTune || b.Groups[g].Best < b.Groups[at].Best) {
			at = g
		}
	}
	return at
}

func (b Band) sum(cells []Cell) (bass, middle, beat bool) {
	for _, c := range cells {
		x, y, z := b.has(c.Part)
		bass, middle, beat = bass || x, middle || y, beat || z
	}
	return bass, middle, beat
}

// Lacks says what a pass lacks: "a bass", "a middle", "a beat".
func (b Band) Lacks(cells []Cell) (list []string) {
	bass, middle, beat := b.sum(cells)
	for _, x := range []struct {
		there bool
		name  string
	}{{bass, "a bass"}, {middle, "a middle: fingers or strums"}, {beat, "a beat: somebody who strikes every one"}} {
		if !x.there {
			list = append(list, x.name)
		}
	}
	return list
}

// Density is how many strokes a bar all groups have together in a pass.
func (b Band) Density(cells []Cell) (sum float64) {
	for _, c := range cells {
		sum += b.strokes(c.Part)
	}
	return sum
}

// boredBy is how far below what a group can do all of its parts lie where it is bored, in
// levels. From memory.
const boredBy = 1.8

// Fit says of a group whether an arrangement fits it, with what to do; empty where it does.
func (b Band) Fit(cells [][]Cell, g int) string {
	can, most := b.can(g), 0.0
	var above []string
	for p := range cells {
		most = max(most, b.Level(cells[p][g].Part))
		if b.Above(cells[p][g].Part, g) {
			above = append(above, fmt.Sprint(p+1))
		}
	}
	name := b.Groups[g].Name
	switch {
	case len(above) > 0:
		return fmt.Sprintf("%s is stretched in part %s: %s", name, strings.Join(above, ", "), b.swap(cells, g, true))
	case most < can-boredBy:
		return fmt.Sprintf("%s could play more than this anywhere: %s", name, b.swap(cells, g, false))
	}
	return ""
}

// swap is the nearest thing to do.
func (b Band) swap(cells [][]Cell, g int, down bool) string {
	best := min(b.Groups[g].Best, len(b.Rungs)-1)
	if best < 0 {
		return "give them each chord once"
	}
	for other := range b.Groups {
		if other == g || down == (b.Groups[other].Best <= b.Groups[g].Best) {
			continue
		}
		for p := range cells {
			mine, theirs := b.Level(cells[p][g].Part), b.Level(cells[p][other].Part)
			if down && theirs <= b.can(g) && mine <= b.can(other) || !down && theirs > mine && theirs <= b.can(g) {
				return fmt.Sprintf("swap with %s in part %d", b.Groups[other].Name, p+1)
			}
		}
	}
	return fmt.Sprintf("their own step is %s", b.Rungs[best].Name)
}
