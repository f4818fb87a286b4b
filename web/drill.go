package web

import (
	"cmp"
	"fmt"
	"html/template"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/drill"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/practice"
	"arplin/core/theory"
	"arplin/draw"
	"arplin/store"
)

type drillData struct {
	Page
	Song        store.Song
	Pattern     hand.Entry
	Patterns    []hand.Entry
	Own         string // the name of the pattern that the song is written with
	Instrument  fretboard.Instrument
	Instruments []fretboard.Instrument
	Students    []store.Student
	For         store.Student // zero for everybody
	Bar         int           // from 1
	Bars        int
	Kind        string // "bar" or "change"
	Minutes     int
	Typed       bool // the minutes were asked for; else they are those of the day
	Clean       int  // the student's last clean tempo on the song, which the drill keeps below
	Hardest     demand.Place
	Exercises   []exerciseView
	Problem     string
	Beat        string
	Care        []string
	OnWeek      *store.WeekDrill // shown as it stands on a student's week
}

type exerciseView struct {
	drill.Exercise
	Number  int
	Minutes string
	Strips  []chordPicture // and shapes, where the right hand is silent
}

// chordPicture is a strip or a shape with the chord that it shows, which is said
// where there are several; empty on open strings and a shape that moves.
type chordPicture struct {
	Chord string
	SVG   template.HTML
}

// drillPage makes exercises of a bar or a change of a song; without a bar it
// takes the hardest spot.
func (s *server) drillPage(c fiber.Ctx) error {
	on, err := s.loadSong(c)
	if err != nil {
		return err
	}
	data := drillData{
		Page: page(c, "Drill for "+on.Title, "songs"), Song: on.Song, Kind: c.Query("kind"), Bar: fiber.Query[int](c, "bar"),
		Minutes: fiber.Query[int](c, "minutes"),
	}
	if data.Patterns, err = s.patternsIn(c, on.Meter); err != nil {
		return err
	}
	own, has := writtenOn(on.Song.Song)
	if has {
		data.Own, data.Pattern = own.Name, own
	} else if len(data.Patterns) > 0 {
		data.Pattern = data.Patterns[0]
	}
	for _, e := range data.Patterns {
		if e.ID == c.Query("pattern") {
			data.Pattern = e
		}
	}
	for _, st := range on.cur.students {
		if st.ID == fiber.Query[int64](c, "student") {
			data.For = st
		}
	}
	return s.renderDrill(c, data, on.cur)
}

// renderDrill makes the exercises for what has been chosen.
func (s *server) renderDrill(c fiber.Ctx, data drillData, cur current) error {
	sg := data.Song
	data.Beat, data.Care, data.Bars = sg.Meter.BeatName(), practice.Care, len(sg.Bars())
	data.Instruments, data.Students = cur.instruments(), cur.students
	data.Instrument = chosenInstrument(c, data.Instruments)
	if data.For.ID != 0 {
		if ins, err := fretboard.ByID(data.For.Instrument); err == nil {
			data.Instrument = ins
		}
		cur.class.Fingers = cmp.Or(data.For.Fingers, cur.class.Fingers)
		clean, err := s.cleanOn(c, cur.class.ID, data.For.ID, sg.ID)
		if err != nil {
			return err
		}
		data.Clean = clean
	}
	if data.Pattern.Name == "" {
		data.Problem = fmt.Sprintf("There is no pattern in %s yet; make one on the bench.", sg.Meter)
		return c.Render("drill", data)
	}
	if data.Typed = data.Minutes != 0; !data.Typed {
		data.Minutes = drill.MinutesOf(cmp.Or(data.For.DayMinutes, 2*usualDrill))
	}
	data.Minutes = min(60, max(3, data.Minutes))
	t := demand.NewTask(data.Pattern.Pattern, sg.Song, data.Instrument, cur.school(), sg.Tempo)
	data.Hardest = demand.Of(t, cur.weights()).Hardest
	data.takeHardest()
	exercises, err := makeDrill(t, data)
	if err != nil {
		data.Problem = sentenceOf(err)
	}
	for i, e := range exercises {
		data.Exercises = append(data.Exercises, exerciseView{
			Exercise: e, Number: i + 1, Minutes: fmt.Sprintf("%.1f", e.Minutes), Strips: drillPictures(e, data, cur, t),
		})
	}
	return c.Render("drill", data)
}

// usualDrill is how long a drill for everybody takes, in minutes.
const usualDrill = 10

// cleanOn is a student's last clean tempo on a song; 0 when nothing was heard.
func (s *server) cleanOn(c fiber.Ctx, class, student, song int64) (int, error) {
	ladders, err := s.Store.Ladders(c.Context(), teacherID(c), class)
	if err != nil {
		return 0, err
	}
	of := map[int64]bool{}
	for _, l := range ladders {
		of[l.ID] = l.SongID == song
	}
	entries, err := s.Store.Entries(c.Context(), teacherID(c), class, time.Now().AddDate(0, 0, -7*historyWeeks))
	clean := 0
	for _, e := range entries {
		if e.StudentID == student && of[e.LadderID] {
			clean = e.Tempo
		}
	}
	return clean, err
}

func makeDrill(t demand.Task, data drillData) ([]drill.Exercise, error) {
	day := drill.Day{Minutes: float64(data.Minutes), Clean: data.Clean}
	if data.Kind == "change" {
		return drill.ChangeTo(t, data.Bar-1, day)
	}
	return drill.Bar(t, data.Bar-1, day)
}

// takeHardest fills in what was not chosen: the hardest bar, and there the change
// or the figure, whichever is hard.
func (data *drillData) takeHardest() {
	if data.Kind == "" && data.Bar == 0 && data.Hardest.Change {
		data.Kind = "change"
	}
	data.Kind = cmp.Or(data.Kind, "bar")
	data.Bar = cmp.Or(data.Bar, data.Hardest.Bar+1)
}

// shownChords is how many chords of a change drill are drawn.
const shownChords = 2

// drillPictures draws an exercise: a figure on its first chord, a change on both
// of its chords, and the shapes alone where the right hand is silent.
func drillPictures(e drill.Exercise, data drillData, cur current, t demand.Task) (pictures []chordPicture) {
	sh, chord := openShape(data.Instrument), theory.MustChord("C")
	if moved, err := fretboard.ParseShape(e.Over); err == nil && moved.Strings() == data.Instrument.Strings() {
		sh = moved // on open strings, or on a shape that moves, it is that shape
	}
	strip := func(name string, c theory.Chord, sh fretboard.Shape) {
		r := bind.Pattern(data.Instrument, cur.school(), e.Pattern, c, sh)
		pictures = append(pictures, chordPicture{name, template.HTML(draw.Strip{
			Instrument: data.Instrument, Pattern: e.Pattern, Events: r.Events, Frets: true, SlotWidth: 30, ThickOnTop: cur.class.ThickOnTop,
			Label: e.Title + ": " + e.Pattern.String(),
		}.SVG())})
	}
	shown := 1
	if data.Kind == "change" {
		shown = shownChords
	}
	for _, bar := range e.Bars {
		for _, ch := range bar.Changes {
			c, err := ch.Chord()
			v, ok := t.Shapes[c]
			if !ok { // a chord of the practice progression
				v, ok = fretboard.Easiest(data.Instrument, c)
			}
			switch {
			case err != nil || !ok || len(pictures) == shown:
			case e.Pattern.Count() == 0:
				shape := draw.Shape{Instrument: data.Instrument, Chord: c, Voicing: v, LeftHanded: data.For.LeftHanded, ThickOnTop: cur.class.ThickOnTop}
				pictures = append(pictures, chordPicture{c.String(), template.HTML(shape.SVG())})
			default:
				strip(c.String(), c, v.Shape)
			}
		}
	}
	if len(pictures) == 0 {
		strip("", chord, sh)
	}
	return pictures
}

func openShape(ins fretboard.Instrument) fretboard.Shape {
	sh, err := fretboard.ParseShape(strings.Repeat("0", ins.Strings()))
	if err != nil {
		panic(err) // every instrument has strings
	}
	return sh
}
