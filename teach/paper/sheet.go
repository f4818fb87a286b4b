package paper

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Ask is what a sheet is for.
type Ask struct {
	Step       ladder.StepID // 0 for the student's own, else the target
	Student    ref.Student   // 0 for everybody
	Instrument string
	AllChords  bool // also those that the step's stage leaves out
	Ghosts     bool
}

// Sheet is paper for one step: for a student, with that student's instrument and
// hand, or for everybody on an instrument.
type Sheet struct {
	Ladder      ladders.Ladder
	Part        string
	Apart       string
	Key         theory.Key
	Step        ladders.Step
	Steps       []ladders.Step // all of them, for the choice
	How         string
	For         store.Student // zero for everybody
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument
	Students    []store.Student
	Chords      []SheetChord
	Roots       []string // of chords that are not of the step's stage
	Without     []string // chords for which there is no shape that the student's hand can do yet
	Sections    []songs.SectionView
	Paper       Paper
	Ready       string
	FallBack    string
	Posture     []string
	HowTo       []string
	Capo        int
	Long        bool // strips too long for two columns
	Ask         Ask
	Drills      []ladders.DrillOnSheet // of the student's week
	Lane        draw.SVG               // for steps before the strings: the rhythm and its count
	Parts       []ladders.PartLane     // the figures of parts that have one of their own
	Remark      string                 // of the teacher on the step
	Tune        []songs.MelodySection  // the bars of a station, in place of the figure and the song
	plays       []pattern.Pattern      // whose letters are on it
}

// SheetChord is a chord with its shape, and the strip of the first few.
type SheetChord struct {
	songs.ChordCard
	Strip draw.SVG
}

// keyToStrips explains the digits.
const keyToStrips = "Numbers on the strip are frets, numbers on the shape are left-hand fingers."

// keyToSigns explains the letters; only those that are on the sheet are said.
var keyToSigns = []struct {
	sign pattern.Sign
	says string
}{
	{pattern.Thumb, "p thumb"}, {pattern.Index, "i index"}, {pattern.Middle, "m middle"}, {pattern.Ring, "a ring finger"}, {pattern.Little, "c little finger"},
	{pattern.Down, "D down"}, {pattern.Up, "U up"}, {pattern.Nails, "N a brush with the nails"}, {pattern.Knock, "X a tap on the body"}, {pattern.Sweep, "~ the next string of a sweep"},
}

// Legend is that line.
func (s Sheet) Legend() string {
	var signs []string
	for _, k := range keyToSigns {
		if slices.ContainsFunc(s.plays, func(p pattern.Pattern) bool { return p.Uses(k.sign) }) {
			signs = append(signs, k.says)
		}
	}
	says := keyToStrips
	if len(signs) > 0 {
		says = strings.Join(signs, ", ") + ". " + says
	}
	if slices.ContainsFunc(s.Chords, func(c SheetChord) bool { return c.Lean }) {
		says += " The shapes show only the fingers you need."
	}
	return says
}

// Load makes the sheet of a step.
func (t *Room) Load(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, ask Ask, now time.Time) (Sheet, error) {
	var drills map[ref.Student][]ladders.DrillOnSheet
	if st, ok := l.Class.Student(ask.Student); ok {
		var err error
		if drills, err = t.Ladders.DrillsOnSheets(ctx, teacher, l.Class, []store.Student{st}, now); err != nil {
			return Sheet{}, err
		}
	}
	return t.SheetOf(l, ask, drills), nil
}

// ByInstrument makes a sheet of the whole pattern for each instrument of the
// class: the song in versions that sound together.
func (t *Room) ByInstrument(l ladders.Ladder) (list []Sheet) {
	for _, ins := range l.Class.Instruments() {
		list = append(list, t.SheetOf(l, Ask{Step: l.Steps[len(l.Steps)-1].ID, Instrument: ins.ID}, nil))
	}
	return list
}

// LoadAll makes a sheet for everybody who is on a step of the ladder, each with the
// own step, to be printed in one go.
func (t *Room) LoadAll(ctx context.Context, teacher ref.Teacher, l ladders.Ladder, now time.Time) (list []Sheet, err error) {
	drills, err := t.Ladders.DrillsOnSheets(ctx, teacher, l.Class, l.Class.Students, now)
	if err != nil {
		return nil, err
	}
	for _, st := range l.Class.Students {
		if ladder.Find(l.Steps, l.Places[st.ID]) >= 0 {
			list = append(list, t.SheetOf(l, Ask{Student: st.ID}, drills))
		}
	}
	return list, nil
}

func (t *Room) SheetOf(l ladders.Ladder, ask Ask, drills map[ref.Student][]ladders.DrillOnSheet) Sheet {
	sh := Sheet{Ladder: l, Part: l.Part(), Apart: l.Apart(), Ask: ask, Instruments: l.Class.Instruments(), Students: l.Class.Students, Instrument: l.Class.Instrument(ask.Instrument)}
	c := l.Class
	if st, ok := c.Student(ask.Student); ok {
		sh.For, sh.Instrument = st, c.Instrument(st.Instrument)
		if ask.Step == 0 {
			ask.Step = l.Places[st.ID]
		}
		c = c.For(st) // a student may differ from the class
	}
	at := ladder.Find(l.Steps, ask.Step)
	if at < 0 {
		at = len(l.Steps) - 1
	}
	for i := range l.Steps {
		sh.Steps = append(sh.Steps, l.Step(i))
	}
	drawn := answer.Keep(t.From, fmt.Sprint("sheet ", at, sh.For, sh.Instrument.ID, ask), l.Loaded, func() Sheet {
		part := sh
		part.draw(c, at)
		return part
	})
	drawn.Drills, drawn.Ladder, drawn.Students = drills[sh.For.ID], l, sh.Students
	drawn.layOut()
	return drawn
}

// draw fills in what a step needs on paper.
func (sh *Sheet) draw(c people.Class, at int) {
	l, step := sh.Ladder, sh.Ladder.Steps[at]
	goal := step.Goal(l.Song.Tempo)
	part := people.Held(sh.For, l.Song.Part(l.Sections))
	_, sh.Without = people.Around(sh.For, l.Song.Part(l.Sections), sh.Instrument)
	v := songs.NewView(part, sh.Instrument, c)
	v.Song = songs.WithoutFigures(v.Song) // the sheet has the figure once, not in every bar
	sh.Key, sh.Step, sh.How = l.Song.KeyGuess().Key, sh.Steps[at], step.How()
	sh.Ready, sh.FallBack, sh.HowTo = people.ReadyWhen(step, goal), people.FallBack(l.Steps, at, l.Task), people.Practise(step)
	sh.Long = len(step.Pattern.Bars) > 1 || step.Pattern.Grid() > 8
	sh.Capo = part.Capo[sh.Instrument.ID]
	if step.Play != difficulty.OnStrings {
		sh.Lane = draw.CountedLane(step.Pattern, step.Pattern.Aloud())
	}
	sh.Parts, sh.Remark = l.PartStrips(at, v, c), step.Remark
	sh.plays = append(sh.plays, step.Pattern)
	for _, part := range step.Parts {
		sh.plays = append(sh.plays, part.Pattern)
	}
	if sh.Ask.Ghosts {
		sh.plays = append(sh.plays, l.Target)
	}
	if !step.BeforeStrings() {
		sh.Posture = people.Posture(c, step.Pattern)
	}
	if sh.Tune = l.Paper(at, v); sh.Tune != nil {
		return
	}
	sh.Sections = v.Sections(catalogue.Entry{}, part)
	var stage []string // without strings there is none: everybody says, taps, mutes the whole song
	if step.Play == difficulty.OnStrings && !sh.Ask.AllChords {
		stage = step.Stage(l.Task)
	}
	used := restOutside(sh.Sections, v.Song, l.Fingered(), stage)
	if step.Play == difficulty.OnStrings { // before that the left hand has nothing to hold
		sh.chords(v, c, at, used)
	}
}

func (sh *Sheet) chords(v songs.View, c people.Class, at int, used map[theory.Chord]bool) {
	for _, ch := range v.Song.Chords() {
		voicing, ok := v.Shapes[ch]
		if !used[ch] {
			if root := rootOf(sh.Instrument, ch, voicing); root != "" {
				sh.Roots = append(sh.Roots, root)
			}
			continue
		}
		card := SheetChord{ChordCard: songs.ChordCard{Symbol: ch.String(), Degree: v.Key.Degree(ch)}}
		if ok {
			var held fretboard.Voicing
			held, card.Lean = sh.Ladder.Needed(v, at, ch, voicing)
			card.Root, card.Bass, card.Frets = held.Root, sh.Instrument.Bass(held.Root), held.String()
			card.Shape = v.Shape(ch, held, sh.For.LeftHanded)
			if len(sh.Chords) < densities[0].strips {
				var target []played.Event
				if sh.Ask.Ghosts {
					target = bind.Pattern(sh.Instrument, c.School(), sh.Ladder.Target, ch, voicing.Shape).Events
				}
				card.Strip = sh.Ladder.Strip(at, sh.Instrument, ch, voicing, c, target)
			}
		}
		sh.Chords = append(sh.Chords, card)
	}
}

// restOutside marks the chords that are not of a step's stage, and returns those
// that are. The stage is written as the ladder's own instrument fingers the song;
// mine is the same song as it is fingered on the sheet. Without a stage all are
// played.
func restOutside(sections []songs.SectionView, mine, first song.Song, stage []string) map[theory.Chord]bool {
	used := map[theory.Chord]bool{}
	for i, sec := range first.Sections {
		for j, bar := range sec.Bars {
			for k, ch := range bar.Changes {
				if stage != nil && !slices.Contains(stage, ch.Symbol) {
					sections[i].Bars[j].Chords[k].Rest = true
				} else if c, err := mine.Sections[i].Bars[j].Changes[k].Chord(); err == nil {
					used[c] = true
				}
			}
		}
	}
	return used
}

// rootOf says where the root of a chord lies that is not held yet; empty when its
// shape leaves the root out.
func rootOf(ins fretboard.Instrument, ch theory.Chord, v fretboard.Voicing) string {
	on := fretboard.BassString(ins, ch, v.Shape)
	switch fret := v.At(on); {
	case on == 0:
		return ""
	case fret == 0:
		return fmt.Sprintf("%s string %d, open", ch, on)
	default:
		return fmt.Sprintf("%s string %d, fret %d", ch, on, fret)
	}
}
