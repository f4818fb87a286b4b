package web

import (
	"cmp"
	"fmt"
	"html/template"
	"slices"

	"github.com/gofiber/fiber/v3"

	"arplin/core/demand"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/practice"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/vary"
	"arplin/draw"
	"arplin/store"
)

type sheetData struct {
	Page
	Ladder      store.Ladder
	Song        store.Song
	Key         theory.Key
	Step        stepView
	Steps       int
	For         string // a student's name, or empty
	Beat        string
	Tempos      vary.Tempos
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument
	Students    []store.Student
	Chords      []sheetChord
	Roots       []string // of chords that are not of the step's stage
	Sections    []sectionView
	Ready       string
	FallBack    string
	Posture     []string
	HowTo       []string
	Care        []string
	Capo        int
	Long        bool // strips too long for two columns
	Ghosts      bool
	AllChords   bool           // also those that the step's stage leaves out
	Drills      []drillOnSheet // of the student's week
	Apart       string         // how the song has moved away from the ladder
	Lane        template.HTML  // for steps before the strings: the rhythm and its count
}

// drillOnSheet is a drill as a few lines of paper.
type drillOnSheet struct {
	drillLine
	Exercises []drill.Exercise
}

type sheetChord struct {
	chordCard
	Strip template.HTML
}

// maxSheetStrips keeps the sheet on one page: the shapes of all chords are
// shown, the strips of the first few.
const maxSheetStrips = 4

// sheet is paper for one step: for a student, with that student's instrument
// and hand, or for everybody on an instrument.
func (s *server) sheet(c fiber.Ctx) error {
	on, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	l, sg, cur := on.Ladder, on.song, on.cur
	index := fiber.Query[int](c, "step", len(l.Steps)) - 1
	index = min(max(index, 0), len(l.Steps)-1)
	step := l.Steps[index]
	goal := step.Goal(sg.Tempo)
	data := sheetData{
		Page: page(c, sg.Title+", step "+c.Query("step"), "ladders"), Ladder: l, Song: sg, Key: sg.KeyGuess().Key, Steps: len(l.Steps),
		Step: stepView{Index: index, Number: index + 1, Adds: step.Adds, Says: step.Says, How: step.How(), First: index == 0},
		Beat: sg.Meter.BeatName(), Tempos: vary.TemposFor(goal), Instruments: cur.instruments(), Students: cur.students,
		Ready: step.ReadyWhen(goal), FallBack: vary.FallBack(l.Steps, index),
		Apart: apart(l, sg.Song), HowTo: step.Practise(), Care: practice.Care, Long: len(step.Pattern.Bars) > 1 || step.Pattern.Grid() > 8, Ghosts: c.Query("ghosts") != "", AllChords: c.Query("all") != "",
	}
	data.Instrument = chosenInstrument(c, data.Instruments)
	leftHanded := false
	for _, st := range cur.students {
		if st.ID != fiber.Query[int64](c, "student") {
			continue
		}
		data.For, leftHanded = st.Name, st.LeftHanded
		if data.Drills, err = s.drillsOnSheet(c, cur, st); err != nil {
			return err
		}
		cur.class.Fingers = cmp.Or(st.Fingers, cur.class.Fingers) // a student may differ from the class
		if ins, err := fretboard.ByID(st.Instrument); err == nil {
			data.Instrument = ins
		}
	}
	part := sg.Part(l.Part)
	v := newSongView(part, data.Instrument, cur)
	data.Capo = sg.Capo[data.Instrument.ID]
	if step.Play != demand.OnStrings {
		data.Lane = template.HTML(draw.CountedLane(step.Pattern, step.Pattern.String()))
	}
	if !step.BeforeStrings() {
		data.Posture = practice.Posture(cur.schools(), step.Pattern.Uses(hand.Thumb), step.Pattern.HasStrums())
	}
	data.Sections = v.sections(hand.Entry{}, part)
	var stage []string // without strings there is none: everybody says, taps, mutes the whole song
	if step.Play == demand.OnStrings && !data.AllChords {
		stage = step.Stage(on.task())
	}
	played := restOutside(data.Sections, v.song, part.Fingering(on.cur.instruments()[0]), stage)
	for _, ch := range v.song.Chords() {
		if step.Play != demand.OnStrings {
			break // the left hand has nothing to hold yet
		}
		if !played[ch] {
			if root := rootOf(data.Instrument, ch, v.shapes[ch]); root != "" {
				data.Roots = append(data.Roots, root)
			}
			continue
		}
		card := sheetChord{chordCard: chordCard{Symbol: ch.String(), Degree: v.key.Degree(ch)}}
		if voicing, ok := v.shapes[ch]; ok {
			card.Root, card.Frets = voicing.Root, voicing.String()
			card.Shape = v.shape(ch, voicing, leftHanded)
			if len(data.Chords) < maxSheetStrips {
				card.Strip = stepStrip(l, index, data.Instrument, cur, ch, voicing, data.Ghosts)
			}
		}
		data.Chords = append(data.Chords, card)
	}
	return c.Render("sheet", data)
}

// restOutside marks the chords that are not of a step's stage, and returns those
// that are. The stage is written as the class's first instrument fingers the song;
// mine is the same song as it is fingered on the sheet. Without a stage all are
// played.
func restOutside(sections []sectionView, mine, first song.Song, stage []string) map[theory.Chord]bool {
	played := map[theory.Chord]bool{}
	for i, sec := range first.Sections {
		for j, bar := range sec.Bars {
			for k, ch := range bar.Changes {
				if stage != nil && !slices.Contains(stage, ch.Symbol) {
					sections[i].Bars[j].Chords[k].Rest = true
				} else if c, err := mine.Sections[i].Bars[j].Changes[k].Chord(); err == nil {
					played[c] = true
				}
			}
		}
	}
	return played
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

// drillsOnSheet makes the exercises of a student's week.
func (s *server) drillsOnSheet(c fiber.Ctx, cur current, st store.Student) (list []drillOnSheet, err error) {
	week, err := s.drillsOfWeek(c, cur.class.ID)
	if err != nil {
		return nil, err
	}
	ins, err := fretboard.ByID(st.Instrument)
	if err != nil {
		ins = cur.instruments()[0]
	}
	for _, d := range week[st.ID] {
		sg, err := s.Store.Song(c.Context(), teacherID(c), d.SongID)
		if err != nil {
			return nil, err
		}
		data := drillData{Kind: d.Kind, Bar: d.Bar, Minutes: d.Minutes}
		if data.Clean, err = s.cleanOn(c, cur.class.ID, st.ID, sg.ID); err != nil {
			return nil, err
		}
		exercises, err := makeDrill(demand.NewTask(d.Pattern, sg.Song, ins, cur.school(), sg.Tempo), data)
		if err == nil { // a bar that the song has no more has no drill
			list = append(list, drillOnSheet{d, exercises})
		}
	}
	return list, nil
}
