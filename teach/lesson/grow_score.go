package lesson

import (
	"cmp"
	"fmt"
	"slices"

	"arplin/core/arrange"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/songs"
)

// Score is what a group plays through the song, counted from 1, on one of its instruments.
func (g Grow) Score(group int, instrument string) (songs.Score, error) {
	if group < 1 || group > len(g.Groups) {
		return songs.Score{}, store.ErrNotFound
	}
	l := g.Ladder
	part := l.Song.Part(l.Sections)
	pictures := g.pictures(group)
	scores := map[arrange.Part]songs.Score{}
	for p := range g.Passes {
		c := g.cells[p][group-1].Part
		if _, there := scores[c]; !there {
			s, err := g.partScore(c, songs.ScoreAsk{Instrument: instrument})
			if err != nil {
				return songs.Score{}, err
			}
			scores[c] = s
		}
	}
	rest, err := g.partScore(arrange.Part{Kind: arrange.Rest}, songs.ScoreAsk{Instrument: instrument})
	if err != nil {
		return songs.Score{}, err
	}
	out := rest
	out.Notes, out.Figures, out.Bars = []songs.ScoreNote{}, []songs.ScoreFigure{}, slices.Clone(rest.Bars)
	figures := map[arrange.Part]int{} // where a part's figures begin
	for i, pass := range g.passOfBars(part) {
		c := g.cells[pass][group-1].Part
		s := scores[c]
		first, there := figures[c]
		if !there {
			first = len(out.Figures)
			figures[c] = first
			out.Figures = append(out.Figures, s.Figures...)
		}
		bar := s.Bars[i]
		if bar.Figure >= 0 {
			bar.Figure += first
		}
		bar.Plays, bar.Picture = cmp.Or(g.roomName(c), "rest"), pictures.at(c, bar, i)
		out.Bars[i] = bar
		end := bar.From + bar.Beats*s.Beat
		from, _ := slices.BinarySearchFunc(s.Notes, bar.From, func(n songs.ScoreNote, tick int) int { return n.Tick - tick })
		for ; from < len(s.Notes) && s.Notes[from].Tick < end; from++ {
			out.Notes = append(out.Notes, s.Notes[from])
		}
	}
	return out, nil
}

// passOfBars is the pass of each bar as it is sung.
func (g Grow) passOfBars(part song.Song) (list []int) {
	pass := -1
	for _, at := range part.Sung() {
		here := arrange.Pass{Section: part.Sections[at.Section].ID, Time: at.Pass}
		if pass < 0 || g.band.Passes[pass] != here {
			pass++
		}
		list = append(list, pass)
	}
	return list
}

// partScore is a part through the whole song.
func (g Grow) partScore(p arrange.Part, ask songs.ScoreAsk) (songs.Score, error) {
	l := g.Ladder
	if p.Kind == arrange.OnStep && p.Of == 0 {
		return l.StepScore(p.Step, ask)
	}
	ins := l.Class.Instrument(ask.Instrument)
	part := l.Song.Part(l.Sections)
	v := songs.NewView(part, ins, l.Class)
	station := map[arrange.PartKind]station.ID{arrange.Once: station.ChordsOnce, arrange.TheTune: station.TuneAlone, arrange.TuneBass: station.WalkingBass}[p.Kind]
	plays := songs.Figures(func(sec song.Section) (pattern.Pattern, bool) { return g.figure(p, sec.ID) })
	if station != "" {
		plays = songs.Tune(station)
	}
	return v.Score(v.Line(part, plays), difficulty.OnStrings, l.SongTitle, bpm.Of(l.Song.Tempo), ask), nil
}

// growPictures are the bars of a group's parts as they are drawn for the room.
type growPictures struct {
	list  []draw.SVG
	first map[arrange.Part]int
	sung  []int // of each bar as it is sung, its place among those that are written
	tune  bool  // the steps are stations, which have a picture of every bar
}

// at is the picture of a bar as it is sung.
func (g growPictures) at(p arrange.Part, bar songs.ScoreBar, sung int) int {
	first, there := g.first[p]
	if !there {
		return 0
	}
	if p.Kind == arrange.TheTune || p.Kind == arrange.TuneBass || g.tune && p.Kind == arrange.OnStep && p.Of == 0 {
		return first + g.sung[sung]
	}
	return first + bar.PatternBar
}

// pictures draws a rest and then each part that a group has, once.
func (g Grow) pictures(group int) growPictures {
	l := g.Ladder
	part := l.Song.Part(l.Sections)
	meter := part.Meter
	out := growPictures{tune: l.OfTune(), first: map[arrange.Part]int{}, list: draw.StageBars(pattern.Pattern{Meter: meter, Bars: []pattern.Bar{make(pattern.Bar, meter.Grids()[0])}})}
	for p := range g.Passes {
		c := g.cells[p][group-1].Part
		if _, there := out.first[c]; there || c.Kind == arrange.Rest {
			continue
		}
		out.first[c] = len(out.list)
		switch i := ladder.Find(l.Steps, c.Step); {
		case c.Kind == arrange.TheTune:
			out.list = append(out.list, draw.StageBars(g.alone.Figure(meter))...)
		case c.Kind == arrange.TuneBass:
			out.list = append(out.list, draw.StageBars(g.over.Figure(meter))...)
		case c.Kind == arrange.OnStep && c.Of == 0 && i >= 0:
			out.list = append(out.list, l.StageBars(i)...)
		default:
			if f, ok := g.figure(c, g.band.Passes[p].Section); ok {
				out.list = append(out.list, draw.StageBars(f)...)
			}
		}
	}
	out.sung = l.WrittenBars()
	return out
}

// Together is the arrangement for the room: a lane for each group.
func (g Grow) Together() ladders.Together {
	t := ladders.Together{Ladder: g.Ladder, Part: g.Part}
	finest := g.Ladder.Steps[len(g.Ladder.Steps)-1].Pattern
	for k, group := range g.Groups {
		lane := ladders.TogetherLane{Part: "rest", Names: group.People, Plays: group.Plays, Instruments: group.Instruments, Bars: g.pictures(k + 1).list}
		for _, ins := range group.Instruments {
			lane.Scores = append(lane.Scores, growScoreAt(g.Ladder.ID, k+1, ins))
		}
		t.Lanes = append(t.Lanes, lane)
	}
	t.Count = draw.StageCount(finest)
	return t
}

func growScoreAt(id ref.Ladder, group int, instrument string) string {
	return fmt.Sprintf("/ladders/%d/grow/score?group=%d&instrument=%s", id, group, instrument)
}

// GrowSheet is one group's way through the song, for paper.
type GrowSheet struct {
	Grow
	Group  GrowGroup
	Lines  []GrowLine
	Shapes []GrowShapes
}

// GrowShapes are the shapes of the song's chords on an instrument of the group.
type GrowShapes struct {
	Instrument string
	Chords     []ladders.ChordPicture
}

// GrowLine is a pass on a group's sheet.
type GrowLine struct {
	GrowPass
	Cell   GrowCell
	Chords []string // a bar each
}

// Hear is the address of what the group plays.
func (s GrowSheet) Hear() string {
	return growScoreAt(s.Ladder.ID, s.Group.Number, s.Group.Instruments[0])
}

// figuresOn are the figures of a group, counted from 1, in the passes of the parts that have a chord.
func (g Grow) figuresOn(v songs.View, ch theory.Chord, group int) (list []pattern.Pattern) {
	for p, pass := range g.band.Passes {
		list = append(list, v.FiguresOn(ch, func(sec song.Section) (pattern.Pattern, bool) {
			if sec.ID != pass.Section {
				return pattern.Pattern{}, false
			}
			return g.figure(g.cells[p][group-1].Part, sec.ID)
		})...)
	}
	return list
}

// Sheet is the sheet of a group, counted from 1.
func (g Grow) Sheet(group int) (GrowSheet, error) {
	if group < 1 || group > len(g.Groups) {
		return GrowSheet{}, store.ErrNotFound
	}
	s := GrowSheet{Grow: g, Group: g.Groups[group-1]}
	part, c := g.Ladder.Song.Part(g.Ladder.Sections), g.Ladder.Class
	for _, id := range s.Group.Instruments {
		v := songs.NewView(part, c.Instrument(id), c)
		shapes := GrowShapes{Instrument: v.Ins.Name}
		for _, ch := range v.Song.Chords() {
			if voicing, ok := v.Shapes[ch]; ok {
				voicing, _ = v.Needed(ch, voicing, g.figuresOn(v, ch, group)...)
				shapes.Chords = append(shapes.Chords, ladders.ChordPicture{Chord: ch.String(), SVG: v.Shape(ch, voicing, false)})
			}
		}
		s.Shapes = append(s.Shapes, shapes)
	}
	v := songs.NewView(part, c.Instrument(s.Group.Instruments[0]), c)
	for p, pass := range g.Passes {
		line := GrowLine{GrowPass: pass, Cell: pass.Cells[group-1]}
		if at := v.Song.SectionAt(g.band.Passes[p].Section); at >= 0 {
			for _, bar := range v.Song.Sections[at].Bars {
				if bar.Ending == 0 || bar.Ending == g.band.Passes[p].Time {
					line.Chords = append(line.Chords, song.BarText(bar.Changes, v.Song.MeterOf(bar)))
				}
			}
		}
		s.Lines = append(s.Lines, line)
	}
	return s, nil
}
