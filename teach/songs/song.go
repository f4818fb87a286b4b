package songs

import (
	"cmp"
	"context"
	"fmt"
	"strings"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/variation"
	"arplin/draw"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Ask is what a song's page is asked for.
type Ask struct {
	Instrument string // a fretboard id; empty for the class's first
	Pattern    string // a pattern's name; empty for the one the song is written with
	Chord      string // opened: other shapes of it
}

// Song is a song for a class on an instrument.
type Song struct {
	Song        store.Song
	Class       people.Class
	Instruments []fretboard.Instrument
	Instrument  fretboard.Instrument
	Patterns    []catalogue.Entry // in the song's meter
	Pattern     catalogue.Entry   // zero when none is chosen and none is on the song
	Chosen      bool              // asked for; else it is the one that the song is written with
	Ask         Ask
}

// Load reads what a song's page is made of.
func (t *Room) Load(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, ask Ask) (Song, answer.Rows, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Song{}, "", err
	}
	own, err := t.Store.Patterns(ctx, teacher)
	if err != nil {
		return Song{}, "", err
	}
	s := Song{Song: sg, Class: c.On(sg.Song), Instruments: c.Instruments(), Instrument: c.Instrument(ask.Instrument), Patterns: patterns.InMeter(own, sg.Meter), Ask: ask}
	for _, e := range s.Patterns {
		if e.ID == ask.Pattern {
			s.Pattern, s.Chosen = e, true
		}
	}
	if !s.Chosen {
		s.Pattern, _ = WrittenOn(sg.Song)
	}
	return s, answer.RowsOf(sg.ID, sg.Version, sg.Moves, sg.Archived, c.Class, c.Students, own, ask), nil
}

func (s Song) task() difficulty.Task {
	return difficulty.NewTask(s.Pattern.Pattern, s.Song.Song, s.Instrument, s.Class.School(), s.Song.Tempo)
}

// SongPage is a song as it is shown.
type SongPage struct {
	Key      theory.Key // that sounds
	KeyFound bool       // found from the chords, not written
	Capo     int
	Fingered theory.Key
	Chords   []ChordCard
	Open     *ChordPanel
	Sections []SectionView
	Level    patterns.Level // of the pattern on this song
	Wide     bool           // bars too wide for four to a line
	Written  string         // the patterns of its parts, where it is shown as it is written
	Tempos   bpm.Tempos
}

// Show computes the page: shapes, bars, strips, and the level of the pattern.
// What is folded away is computed when it is opened.
func (t *Room) Show(s Song, rows answer.Rows) SongPage {
	return answer.Keep(t.From, "song", rows, func() SongPage {
		sg := s.Song.Song
		v := NewView(sg, s.Instrument, s.Class)
		page := SongPage{
			Key: v.sounding, KeyFound: sg.Key == "", Capo: sg.Capo[s.Instrument.ID], Fingered: v.Key, Tempos: bpm.Of(sg.Tempo),
			Chords: v.cards(s.Pattern), Open: v.panel(s.Pattern, s.Ask.Chord),
		}
		written := catalogue.Entry{} // every section keeps its own
		if s.Chosen {
			written = s.Pattern
		}
		page.Sections = v.Sections(written, sg)
		if !s.Chosen {
			page.Written = strings.Join(WrittenNames(sg), ", ")
		}
		if s.Pattern.Name != "" {
			page.Wide = s.Pattern.Pattern.Grid() > 8
			bars, played := difficulty.BarsOf(v.Song)
			task := difficulty.Task{Pattern: s.Pattern.Pattern, Bars: bars, Played: played, Instrument: s.Instrument, School: v.School, Shapes: sg.UsualShapesOn(s.Instrument), Tempo: sg.Tempo}
			if _, others, own := difficulty.FiguresOf(v.Song); own && !s.Chosen { // as it is written, part by part
				task = task.Split(v.Song, others)
			}
			page.Level = patterns.LevelIn(s.Class, task, s.Pattern.Pattern, fmt.Sprintf("on this song, %s, at %d", s.Instrument.Name, sg.Tempo))
		}
		return page
	})
}

// Around is what lies about a pattern on a song: neighbours, and what can be done
// to the song itself.
type Around struct {
	Near  patterns.Neighbours
	Moves []MoveLine
}

// MoveLine is something that can be done to the whole song.
type MoveLine struct {
	variation.Move
	Now, Then string
	Easier    bool
}

// AroundSong finds it; deep looks two rules away.
func (t *Room) AroundSong(s Song, rows answer.Rows, deep bool) Around {
	if s.Pattern.Name == "" {
		return Around{}
	}
	return answer.Keep(t.From, fmt.Sprintf("song around %v ", deep), rows, func() Around {
		sg, w, task := s.Song.Song, s.Class.Weigh(), s.task()
		level := difficulty.LevelOf(task, w)
		a := Around{Near: patterns.NeighboursOf(patterns.NewDrawer(s.Class), task, w, patterns.FirstChord(sg.Fingering(s.Instrument)).String(), deep)}
		for _, m := range variation.Moves(sg, s.Pattern.Pattern, s.Instrument, s.Class.Players(), s.Class.School(), w) {
			a.Moves = append(a.Moves, MoveLine{m, patterns.Tenth(level), patterns.Tenth(m.Level), m.Level < level-0.05})
		}
		return a
	})
}

// Taken is what the pattern is called after a change: with the change behind its
// name, or as varied when it has been changed before.
func (s Song) Taken(change string) string {
	name, _, before := strings.Cut(s.Pattern.Name, " (")
	if before {
		change = "varied"
	}
	room := max(0, song.MaxPatternName-len([]rune(" ()"+change)))
	return letters.Cut(name, room) + " (" + change + ")"
}

// LeftHands is what a song asks of the left hand, a line for each instrument.
func (t *Room) LeftHands(s Song, rows answer.Rows) []LeftHand {
	return answer.Keep(t.From, "left hands", rows, func() (lines []LeftHand) {
		for _, ins := range s.Instruments {
			lines = append(lines, leftHandOf(s.Song.Song, ins))
		}
		return lines
	})
}

// LeftHand is what a song asks of one instrument, in words.
type LeftHand struct {
	Instrument string
	Shape      string
	ShapeWhy   string
	Change     string
	ChangeWhy  string
	PerMinute  float64
	Pair       string
}

func leftHandOf(sg song.Song, ins fretboard.Instrument) LeftHand {
	lh := sg.LeftHandOn(ins)
	line := LeftHand{Instrument: ins.Name, PerMinute: lh.ChangesPerMinute}
	if lh.Hold > 0 {
		v := sg.ShapesOn(ins)[lh.HardestShape]
		line.Shape = lh.HardestShape.String()
		line.ShapeWhy = fmt.Sprintf("%s, %s", v, say.Count(v.Fingering.Count(), "finger", "fingers"))
		if v.Fingering.Barre.From != 0 {
			line.ShapeWhy += ", barre"
		}
	}
	if lh.Change.Effort > 0 {
		line.Change = fmt.Sprintf("%s to %s", lh.HardestChange[0], lh.HardestChange[1])
		line.ChangeWhy = fmt.Sprintf("%d of %s move, about %.1f s", len(lh.Change.Moved), say.Count(len(lh.Change.Moved)+len(lh.Change.Kept), "finger", "fingers"), lh.Change.Seconds)
	}
	if lh.HasPair {
		line.Pair = fmt.Sprintf("%s and %s", lh.EasyPair[0], lh.EasyPair[1])
	}
	return line
}

// View draws a song for one instrument, as it is fingered there.
type View struct {
	Song       song.Song // under the instrument's capo
	Key        theory.Key
	Ins        fretboard.Instrument
	School     bind.School
	Shapes     bind.Shapes
	lean       bool
	ThickOnTop bool
	sounding   theory.Key
}

func NewView(sg song.Song, ins fretboard.Instrument, c people.Class) View {
	fingered := sg.Fingering(ins)
	return View{
		Song: fingered, Key: fingered.KeyGuess().Key, Ins: ins, School: c.School().On(sg), Shapes: sg.ShapesOn(ins),
		lean: c.Lean, ThickOnTop: c.ThickOnTop, sounding: sg.KeyGuess().Key,
	}
}

func (v View) Shape(ch theory.Chord, voicing fretboard.Voicing, leftHanded bool) draw.SVG {
	return draw.Shape{Instrument: v.Ins, Chord: ch, Voicing: voicing, LeftHanded: leftHanded, ThickOnTop: v.ThickOnTop}.SVG()
}

// SectionView is a section on the page.
type SectionView struct {
	ID      song.SectionID
	Name    string
	Times   int
	Pattern string // the section's own, by name
	Bars    []BarView
}

// BarView is one bar on the page.
type BarView struct {
	ID      song.BarID
	Number  int // counted through the song, from 1
	Text    string
	Chords  []ChordInBar
	Words   string
	Role    song.Role
	Ending  int
	Meter   string   // where it is not the song's
	Notes   []string // of the sheet, before it
	Open    string   // a sentence when the chords do not fill the bar
	Strip   draw.SVG
	Notices []string
}

// ChordInBar is a chord of a bar.
type ChordInBar struct {
	Symbol, Degree string
	Root           fretboard.String // 0 when there is no shape
	Problem        string           // a sentence for a chord that cannot be read
	Rest           bool             // not of the step's stage: on a sheet it is rested, or its root played
}

// Sections lays out the bars, with a strip each when a pattern is chosen; written
// is the song as it sounds, whose text is edited. Bars that are played alike are
// drawn once.
func (v View) Sections(e catalogue.Entry, written song.Song) []SectionView {
	var views []SectionView
	strips, notes := map[string]draw.SVG{}, map[string]ChordInBar{}
	number := 0
	for i, sec := range v.Song.Sections {
		view := SectionView{ID: sec.ID, Name: sec.Name, Times: max(1, sec.Times)}
		var bound []bind.SongBar
		p, has := e.Pattern, e.ID != "" // the pattern asked for, or the section's own
		if !has {
			if p, has = sec.Figure(v.Song.Meter); has {
				view.Pattern = sec.PatternName
			}
		}
		notation := ""
		if has {
			notation = p.String()
			bound = bind.Section(v.Ins, v.School, p, sec, v.Shapes)
		}
		for j, bar := range sec.Bars {
			number++
			b := BarView{
				ID: bar.ID, Number: number, Words: bar.Words, Role: bar.Role, Ending: bar.Ending, Chords: v.chordsIn(bar, notes),
				Text: song.BarText(written.Sections[i].Bars[j].Changes, written.MeterOf(bar)), Open: v.open(bar), Notes: bar.Notes,
			}
			if bar.Meter.Beats > 0 {
				b.Meter = bar.Meter.String()
			}
			if bound != nil {
				b.Strip = v.stripOnce(p, notation, bound[j], number, strips)
				for _, n := range bound[j].Notices {
					b.Notices = append(b.Notices, n.Text)
				}
			}
			view.Bars = append(view.Bars, b)
		}
		views = append(views, view)
	}
	return views
}

// open says in words that a bar does not add up.
func (v View) open(bar song.Bar) string {
	meter := v.Song.MeterOf(bar)
	if bar.Adds(meter) {
		return ""
	}
	if len(bar.Changes) == 0 {
		return "There’s no chord in this bar yet."
	}
	beat := float64(meter.BarTicks()) / float64(meter.Beats)
	return fmt.Sprintf("%.3g of %d beats: the bar does not add up.", float64(bar.Ticks())/beat, meter.Beats)
}

func (v View) chordsIn(bar song.Bar, known map[string]ChordInBar) []ChordInBar {
	var list []ChordInBar
	for _, change := range bar.Changes {
		in, ok := known[change.Symbol]
		if own := len(bar.Shapes[v.Ins.ID]) > 0; own || !ok {
			if in = v.chordIn(change, bar.In(v.Ins, v.Shapes)); !own {
				known[change.Symbol] = in
			}
		}
		list = append(list, in)
	}
	return list
}

func (v View) chordIn(change song.Change, shapes bind.Shapes) ChordInBar {
	in := ChordInBar{Symbol: change.Symbol}
	if change.Silent() {
		return in
	}
	ch, err := change.Chord()
	if err != nil {
		in.Problem = answer.Sentence(err.Error())
		return in
	}
	in.Degree, in.Root = v.Key.Degree(ch), shapes[ch].Root
	if in.Root == 0 {
		in.Problem = fmt.Sprintf("There’s no shape for %s on this instrument.", ch)
	}
	return in
}

// labelPlace stands in a drawn bar for its label until its number is known.
const labelPlace = "\x00"

// stripOnce draws one bar of the song, the same picture for all that are alike.
func (v View) stripOnce(p pattern.Pattern, notation string, sb bind.SongBar, number int, drawn map[string]draw.SVG) draw.SVG {
	key := fmt.Sprint(sb.PatternBar, notation, sb.Role, sb.Held, sb.Changes, sb.Meter)
	svg, ok := drawn[key]
	if !ok {
		svg = v.strip(p, sb)
		drawn[key] = svg
	}
	return draw.SVG(strings.Replace(string(svg), labelPlace, fmt.Sprintf("bar %d", number), 1))
}

func (v View) strip(p pattern.Pattern, sb bind.SongBar) draw.SVG {
	one := pattern.Pattern{Meter: p.Meter, Swing: p.Swing, Bars: p.Bars[sb.PatternBar : sb.PatternBar+1]}.In(cmp.Or(sb.Meter, p.Meter))
	return barStrip(v.Ins, one, sb.Events, nil, slotWidth(p.Grid()), v.ThickOnTop, fmt.Sprintf("%s: %s", labelPlace, one))
}
