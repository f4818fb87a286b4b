package arrange

import (
	"math"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
)

// Pass is a section where it comes in the song: which time it is played, from 1.
type Pass struct {
	Section song.SectionID `json:"section"`
	Time    int            `json:"time"`
}

// Passes are the sections as they are sung.
func Passes(sg song.Song) (list []Pass) {
	for _, at := range sg.Sung() {
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
	Of     int64 // the ladder of another song; 0 for the arrangement's own
	Name   string
	Level  float64
	Figure pattern.Pattern
	Others []difficulty.Figure // of parts of the song that have one of their own
}

// In is the figure of a rung in a section.
func (r Rung) In(section song.SectionID) pattern.Pattern {
	for _, o := range r.Others {
		if slices.Contains(o.Sections, section) {
			return o.Pattern
		}
	}
	return r.Figure
}

// Group is some of the class who play the same; who they are is not the core's.
type Group struct {
	Name string
	Best int // the highest rung that all of them can play, from 0

	Knows []Part // what they know from other songs
}

// Band is who is there, and what there is to play.
type Band struct {
	Passes []Pass
	Groups []Group
	Rungs  []Rung // from the easiest; those of other songs behind them
	Tune   Tune
	// Over is the melody over a walking bass.
	Over Tune
	// Levels are those of a strum, and of bass and strum, on this song; what is not in it is not given
	// to anybody.
	Levels map[PartKind]float64
	Meter  pattern.Meter
}

// Tune is the melody alone; the zero value is a song without one.
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
	case TuneBass:
		return b.Over.Level
	case Strum, BassStrum:
		return b.Levels[p.Kind]
	case OnStep:
		if i := b.rung(p); i >= 0 {
			return b.Rungs[i].Level
		}
	}
	return levelRest
}

func (b Band) rung(p Part) int {
	return slices.IndexFunc(b.Rungs, func(r Rung) bool { return r.ID == p.Step && r.Of == p.Of })
}

// best is the highest rung of the own ladder that a group plays; -1 for none.
func (b Band) best(g Group) int {
	own := 0
	for own < len(b.Rungs) && b.Rungs[own].Of == 0 {
		own++
	}
	return min(g.Best, own-1)
}

// can is the level that a group plays clean.
func (b Band) can(g int) float64 {
	level := levelOnce
	if i := b.best(b.Groups[g]); i >= 0 {
		level = max(level, b.Rungs[i].Level)
	}
	if p, ok := b.known(b.Groups[g]); ok {
		level = max(level, b.Level(p))
	}
	return level
}

// rounded is by how much a level may be above another that a page shows as the same.
const rounded = 0.05

// Above reports a part that is more than a group plays clean.
func (b Band) Above(p Part, g int) bool { return b.Level(p) > b.can(g)+rounded }

// strokes are how many a part has in a bar of a pass.
func (b Band) strokes(pass int, p Part) float64 {
	switch p.Kind {
	case BassOne, Once:
		return 1
	case Strum, BassStrum:
		return float64(b.Meter.TappedBeats())
	case TheTune:
		return b.Tune.Strokes
	case TuneBass:
		return b.Over.Strokes
	case OnStep:
		if i := b.rung(p); i >= 0 {
			f := b.Rungs[i].In(b.Passes[pass].Section)
			return float64(f.Count()) / float64(len(f.Bars))
		}
	}
	return 0
}

// has reports what a part brings to a pass: a bass, a middle, a beat.
func (b Band) has(pass int, p Part) (bass, middle, beat bool) {
	switch p.Kind {
	case BassOne:
		return true, false, false
	case Once:
		return false, true, false
	case Strum:
		return false, true, true
	case BassStrum:
		return true, true, true
	case TuneBass:
		return true, false, true
	case OnStep:
		i := b.rung(p)
		if i < 0 {
			return false, false, false
		}
		f := b.Rungs[i].In(b.Passes[pass].Section)
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

func (c Cell) carriesTune() bool { return c.Kind == TheTune || c.Kind == TuneBass }

// How a song grows: what the first pass has of what everybody can; the rest comes in equal
// parts. From memory.
const firstShare = 0.35

// Propose lets the song grow from pass to pass: nobody above what they play clean, the tune in
// the second half where somebody can carry it, and in each pass a bass, a middle and a beat
// where the groups have them. It answers by pass, then by group.
func (b Band) Propose() [][]Cell {
	cells := make([][]Cell, len(b.Passes))
	for p := range b.Passes {
		cells[p] = make([]Cell, len(b.Groups))
		for g := range b.Groups {
			cells[p][g] = b.proposed(p, g)
		}
		b.complete(p, cells[p])
	}
	return cells
}

// proposed is the part of a group in a pass. Where the same bars come four times or more they
// come as strum, figure, figure with the tune, bass and strum. Source: common practice.
func (b Band) proposed(p, g int) Cell {
	n := len(b.Passes)
	if b.written() && b.best(b.Groups[g]) >= 0 {
		c := b.grown(b.Groups[g], 1)
		c.Why = "their own step. Each section has its own pattern"
		return c
	}
	quarter := -1
	if n >= 4 && b.Levels[Strum] > 0 && !slices.ContainsFunc(b.Passes, func(o Pass) bool { return o.Section != b.Passes[0].Section }) {
		quarter = 4 * p / n
	}
	if b.carries() == g && 2*p >= n {
		if quarter == 3 && b.Over.Level > 0 && !b.Above(Part{Kind: TuneBass}, g) {
			return Cell{Part{Kind: TuneBass}, "they’re on the highest step, so they play the melody with its own bass at the end"}
		}
		return Cell{Part{Kind: TheTune}, "they’re on the highest step, and the others support them"}
	}
	switch {
	case quarter == 0 && b.gives(Strum, g):
		return Cell{Part{Kind: Strum}, "first the chords, strummed"}
	case quarter == 3 && b.gives(BassStrum, g):
		return Cell{Part{Kind: BassStrum}, "finally everything at once: bass and strum"}
	}
	share := 1.0
	if n > 1 && quarter < 1 {
		share = firstShare + (1-firstShare)*float64(p)/float64(n-1)
	}
	return b.grown(b.Groups[g], share)
}

// written reports a song with a figure of its own for each part: how it grows is the teacher's plan.
func (b Band) written() bool {
	return slices.ContainsFunc(b.Rungs, func(r Rung) bool { return r.Of == 0 && len(r.Others) > 0 })
}

// gives reports a part that is there on this song, and not above a group that is on a step.
func (b Band) gives(k PartKind, g int) bool {
	return b.Levels[k] > 0 && b.best(b.Groups[g]) >= 0 && !b.Above(Part{Kind: k}, g)
}

func (b Band) grown(g Group, share float64) Cell {
	best := b.best(g)
	if p, ok := b.known(g); ok && best < 0 {
		return Cell{p, "they know it from another song with these chords"}
	}
	if best < 0 {
		return Cell{Part{Kind: Once}, "they aren’t on a step yet, so each chord once"}
	}
	at := int(math.Round(share * float64(best)))
	why := "their own step"
	if at < best {
		why = "easier than their step, so the song can build"
	}
	return Cell{Part{Kind: OnStep, Step: b.Rungs[at].ID}, why}
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
func (b Band) complete(pass int, cells []Cell) {
	if bass, _, _ := b.sum(pass, cells); !bass && len(cells) > 0 {
		g := b.least(cells)
		cells[g] = Cell{Part{Kind: BassOne}, "someone keeps the bass"}
	}
	if _, middle, _ := b.sum(pass, cells); !middle && len(cells) > 1 {
		for g := len(cells) - 1; g >= 0; g-- {
			if cells[g].Kind != BassOne && !cells[g].carriesTune() && b.onlyBass(pass, cells[g].Part) && b.Groups[g].Best >= 0 && b.spare(pass, cells, g) {
				cells[g] = Cell{Part{Kind: Once}, "someone fills the middle with chords"}
				return
			}
		}
	}
}

func (b Band) onlyBass(pass int, p Part) bool {
	_, middle, _ := b.has(pass, p)
	return !middle
}

// spare reports that the bass is kept by another group than this.
func (b Band) spare(pass int, cells []Cell, but int) bool {
	for g, c := range cells {
		if bass, _, _ := b.has(pass, c.Part); bass && g != but {
			return true
		}
	}
	return false
}

// least is the group that is the least far, and does not carry the tune.
func (b Band) least(cells []Cell) int {
	at := 0
	for g := range b.Groups {
		if !cells[g].carriesTune() && (cells[at].carriesTune() || b.Groups[g].Best < b.Groups[at].Best) {
			at = g
		}
	}
	return at
}
