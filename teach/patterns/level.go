package patterns

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/theory"
	"arplin/core/variation"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Level opens a level into its parts.
type Level struct {
	Level   string // empty when nothing was measured
	On      string // what it was measured on
	Parts   []LevelPart
	Hardest string
}

// LevelPart is a part that counts for something.
type LevelPart struct {
	Label, Says string
	Share       string
	Width       int // of a hundred
}

// LevelOf shows the parts that count for something, the weightiest first.
func LevelOf(r difficulty.Reading, p pattern.Pattern, on string) Level {
	v := Level{Level: Tenth(r.Level), On: on, Hardest: fmt.Sprintf("bar %d, %s: %s", r.Hardest.Bar+1, p.Spot(r.Hardest.Slot), r.Hardest.Why)}
	parts := slices.Clone(r.Parts)
	slices.SortStableFunc(parts, func(a, b difficulty.Part) int { return cmp.Compare(b.Share, a.Share) })
	for _, part := range parts {
		if part.Share < 0.005 {
			continue
		}
		v.Parts = append(v.Parts, LevelPart{
			Label: part.Label, Says: part.Says, Share: fmt.Sprintf("+%.2f", part.Share), Width: int(100*part.Share/parts[0].Share + 0.5),
		})
	}
	return v
}

func Tenth(level float64) string { return fmt.Sprintf("%.1f", level) }

// Neighbour is a simpler or harder pattern, one click away.
type Neighbour struct {
	Change, Says, Level, Notation string
	More                          bool     // further off: shown on demand
	Strip                         draw.SVG // of the nearest ones that are not too long
	Lane                          draw.SVG // of the others
	Together                      bool
}

// Neighbours are the two sides of a pattern, and what is as hard.
type Neighbours struct {
	Simpler, Beside, Harder []Neighbour
	Deep                    bool // two rules away
}

const (
	benchTempo   = 80 // at which the bench and the library measure
	BenchChord   = "C"
	shownPlucked = 4 // on each side as strips; the rest on demand
	shownStrums  = 3 // their strips are taller by the hand's path
	shownSides   = 14
	longestStrip = 16 // slots; longer figures are shown as lanes
	smallSlot    = 26.0
)

// OnOneChord is a pattern on C at the bench's tempo, and how that is said.
func OnOneChord(p pattern.Pattern, ins fretboard.Instrument, c people.Class) (difficulty.Task, string) {
	return difficulty.OneChord(p, theory.MustChord(BenchChord), ins, c.School(), benchTempo), fmt.Sprintf("on %s, %s, at %d", BenchChord, ins.Name, benchTempo)
}

// NeighboursOf draws what lies about a task on one chord of its instrument.
func NeighboursOf(d *drawer, t difficulty.Task, w difficulty.Weights, chord string, deep bool) Neighbours {
	find := variation.Neighbours
	if deep {
		find = variation.Deeper
	}
	a := find(t, w).ByTenths()
	first := shownPlucked
	if t.Pattern.HasStrums() {
		first = shownStrums
	}
	list := func(found []variation.Variation, strips int) (out []Neighbour) {
		found = variation.PerRule(found)
		for i, v := range found[:min(shownSides, len(found))] {
			n := Neighbour{More: i >= first, Change: v.Name(), Says: v.Says(), Level: Tenth(v.Level), Notation: v.Pattern.String(), Together: v.Together}
			if !v.Together {
				n.Says += " For the whole class at once."
			}
			fresh := pattern.New(v.Pattern, t.Pattern)
			if i < strips && v.Pattern.Grid()*len(v.Pattern.Bars) <= longestStrip {
				n.Strip = d.neighbourStrip(v.Pattern, t, chord, fresh)
			} else {
				n.Lane = draw.Lane(v.Pattern, fresh, v.Pattern.Aloud())
			}
			out = append(out, n)
		}
		return out
	}
	return Neighbours{Simpler: list(a.Simpler, first), Beside: list(a.Beside, 0), Harder: list(a.Harder, first), Deep: deep}
}

// neighbourStrip draws a neighbour with what it adds in amber and what it leaves
// out as ghosts.
func (d *drawer) neighbourStrip(p pattern.Pattern, t difficulty.Task, chord string, fresh map[pattern.Place]bool) draw.SVG {
	st, _ := d.bound(p, t.Instrument, chord)
	st.New, st.SlotWidth = fresh, smallSlot
	now, _ := d.bound(t.Pattern, t.Instrument, chord)
	st.Ghosts = GhostsOf(now.Events, pattern.Missing(p, t.Pattern))
	return st.SVG()
}

// LevelPage opens a level of a list into its parts.
type LevelPage struct {
	Notation string
	Level    Level
	Strip    draw.SVG
	Song     *store.Song // that it was measured on; nil for one chord
}

// LevelOf measures a figure on a song, or on one chord for id 0.
func (t *Room) LevelOf(ctx context.Context, teacher ref.Teacher, c people.Class, p pattern.Pattern, id ref.Song, instrument string) (LevelPage, error) {
	ins := c.Instrument(instrument)
	page := LevelPage{Notation: p.String()}
	task, on := OnOneChord(p, ins, c)
	chord := BenchChord
	if id != 0 {
		sg, err := t.Store.Song(ctx, teacher, id)
		if err != nil {
			return page, err
		}
		if sg.Meter != p.Meter {
			return page, answer.Refuse("the pattern is in %s, the song in %s", p.Meter, sg.Meter)
		}
		page.Song, chord = &sg, FirstChord(sg.Song).String()
		task, on = difficulty.NewTask(p, sg.Song, ins, c.School(), sg.Tempo), fmt.Sprintf("on %s, %s, at %d", sg.Title, ins.Name, sg.Tempo)
	}
	page.Level = LevelOf(difficulty.Of(task, c.Weigh()), p, on)
	page.Strip = NewDrawer(c).strip(p, ins, chord, nil, 34)
	return page, nil
}

// LevelIn measures a task with a class's weights.
func LevelIn(c people.Class, task difficulty.Task, p pattern.Pattern, on string) Level {
	return LevelOf(difficulty.Of(task, c.Weigh()), p, on)
}
