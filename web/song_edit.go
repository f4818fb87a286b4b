package web

import (
	"cmp"
	"fmt"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/theory"
)

// edits read the forms of a song's page, by what they do.
var edits = map[string]func(fiber.Ctx) (song.Edit, error){
	"bar": func(c fiber.Ctx) (song.Edit, error) {
		return edit.SetBar{Bar: barID(c), Chords: text(c), Words: c.FormValue("words")}, nil
	},
	"split":  func(c fiber.Ctx) (song.Edit, error) { return edit.SplitBar{Bar: barID(c)}, nil },
	"join":   func(c fiber.Ctx) (song.Edit, error) { return edit.JoinBar{Bar: barID(c)}, nil },
	"insert": func(c fiber.Ctx) (song.Edit, error) { return edit.InsertBar{After: barID(c)}, nil },
	"delete": func(c fiber.Ctx) (song.Edit, error) { return edit.DeleteBar{Bar: barID(c)}, nil },
	"role": func(c fiber.Ctx) (song.Edit, error) {
		return edit.SetRole{Bar: barID(c), Role: song.Role(text(c))}, nil
	},
	"ending": func(c fiber.Ctx) (song.Edit, error) {
		n, err := number(c, "an ending is the first, the second, the third or none")
		return edit.SetEnding{Bar: barID(c), Ending: n}, err
	},
	"barmeter": func(c fiber.Ctx) (song.Edit, error) {
		m, err := pattern.ParseMeter(text(c))
		return edit.SetBarMeter{Bar: barID(c), Meter: m}, err
	},
	"notes": func(c fiber.Ctx) (song.Edit, error) {
		return edit.SetNotes{Bar: barID(c), Lines: c.FormValue("text")}, nil
	},
	"title": func(c fiber.Ctx) (song.Edit, error) { return edit.SetTitle{Title: text(c)}, nil },
	"say-key": func(c fiber.Ctx) (song.Edit, error) {
		if text(c) == "" {
			return edit.SayKey{}, nil
		}
		k, err := theory.ParseKey(text(c))
		return edit.SayKey{Key: k}, err
	},
	"move-up":   func(c fiber.Ctx) (song.Edit, error) { return edit.MoveSection{Section: sectionID(c), By: -1}, nil },
	"move-down": func(c fiber.Ctx) (song.Edit, error) { return edit.MoveSection{Section: sectionID(c), By: +1}, nil },
	"times": func(c fiber.Ctx) (song.Edit, error) {
		n, err := number(c, "write how many times the section is played")
		return edit.SetTimes{Section: sectionID(c), Times: n}, err
	},
	"rename": func(c fiber.Ctx) (song.Edit, error) {
		return edit.RenameSection{Section: sectionID(c), Name: text(c)}, nil
	},
	"copy": func(c fiber.Ctx) (song.Edit, error) { return edit.CopySection{Section: sectionID(c)}, nil },
	"drop": func(c fiber.Ctx) (song.Edit, error) { return edit.DeleteSection{Section: sectionID(c)}, nil },
	"form": func(c fiber.Ctx) (song.Edit, error) {
		n, err := number(c, "a form has 12 or 16 bars")
		return edit.AddForm{Bars: n}, err
	},
	"tempo": func(c fiber.Ctx) (song.Edit, error) {
		n, err := number(c, "write the tempo as a number")
		return edit.SetTempo{Tempo: n}, err
	},
	"swing": func(c fiber.Ctx) (song.Edit, error) { return edit.SetSwing{Swing: text(c) == "yes"}, nil },
	"meter": func(c fiber.Ctx) (song.Edit, error) {
		m, err := pattern.ParseMeter(text(c))
		return edit.SetMeter{Meter: m}, err
	},
	"melody": func(c fiber.Ctx) (song.Edit, error) {
		return edit.SetMelody{Section: sectionID(c), Text: text(c)}, nil
	},
	"tags": func(c fiber.Ctx) (song.Edit, error) {
		return edit.SetTags{Tags: strings.FieldsFunc(text(c), func(r rune) bool { return r == ',' || r == ';' })}, nil
	},
	"tune-add":  func(c fiber.Ctx) (song.Edit, error) { return edit.AddTune{Name: text(c)}, nil },
	"tune-take": func(c fiber.Ctx) (song.Edit, error) { return edit.TakeTune{ID: formID[song.TuneID](c, "text")}, nil },
	"tune-drop": func(c fiber.Ctx) (song.Edit, error) { return edit.DropTune{ID: formID[song.TuneID](c, "text")}, nil },
	"note": func(c fiber.Ctx) (song.Edit, error) {
		do, err := edit.ParseNoteKey(c.FormValue("do"))
		return edit.TypeNote{Bar: barID(c), Tick: formID[int](c, "tick"), Ticks: formID[int](c, "ticks"), Do: do, Note: text(c)}, err
	},
	"put": func(c fiber.Ctx) (song.Edit, error) {
		ins, err := fretboard.ByID(c.Query("instrument"))
		var tick, on int
		if _, scanErr := fmt.Sscan(c.FormValue("put"), &tick, &on); scanErr != nil {
			return nil, fmt.Errorf("%q is not a note and a string", c.FormValue("put"))
		}
		return edit.PutNote{Bar: barID(c), Tick: tick, Instrument: ins, String: fretboard.String(on)}, err
	},
	"range":   readRange,
	"key":     readKey,
	"shape":   readShape,
	"root":    readRoot,
	"pattern": readPattern,
}

// readEdit takes an edit from the form; what cannot be read is a refusal.
func (s *server) readEdit(c fiber.Ctx) (song.Edit, error) {
	op := c.FormValue("op")
	switch op {
	case "move":
		return s.readMove(c)
	case "part":
		return s.readPart(c)
	}
	read, ok := edits[op]
	if !ok {
		return nil, refuse(fmt.Sprintf("%q cannot be done to a song", op))
	}
	e, err := read(c)
	if err != nil {
		return nil, refuse(err.Error())
	}
	return e, nil
}

func text(c fiber.Ctx) string              { return strings.TrimSpace(c.FormValue("text")) }
func barID(c fiber.Ctx) song.BarID         { return formID[song.BarID](c, "bar") }
func sectionID(c fiber.Ctx) song.SectionID { return formID[song.SectionID](c, "section") }

func number(c fiber.Ctx, wanted string) (int, error) {
	n, err := strconv.Atoi(text(c))
	if err != nil {
		return 0, fmt.Errorf("%s, not %q", wanted, text(c))
	}
	return n, nil
}

// readRange reads the lowest and highest sung note, "A3 C5"; nothing leaves the
// range open.
func readRange(c fiber.Ctx) (song.Edit, error) {
	notes := strings.Fields(text(c))
	if len(notes) == 0 {
		return edit.SetRange{}, nil
	}
	if len(notes) != 2 {
		return nil, fmt.Errorf("write the lowest and the highest note, as in A3 C5, not %q", text(c))
	}
	low, err := theory.ParsePitch(notes[0])
	if err != nil {
		return nil, err
	}
	high, err := theory.ParsePitch(notes[1])
	return edit.SetRange{Low: low, High: high}, err
}

// readKey reads a key, and a capo for each instrument that has one: "guitar 2".
func readKey(c fiber.Ctx) (song.Edit, error) {
	key, err := theory.ParseKey(text(c))
	if err != nil {
		return nil, err
	}
	capos := map[string]int{}
	for _, f := range sentFields(c) {
		if id, ok := strings.CutPrefix(f.Name, "capo "); ok {
			if capos[id], err = strconv.Atoi(f.Value); err != nil {
				return nil, fmt.Errorf("a capo is on a fret, not on %q", f.Value)
			}
		}
	}
	return edit.SetKey{Key: key, Capo: capos}, nil
}

// readShape reads a shape for a chord; without frets the choice is taken back.
func readShape(c fiber.Ctx) (song.Edit, error) {
	ins, err := fretboard.ByID(c.FormValue("instrument"))
	if err != nil {
		return nil, err
	}
	ch, err := theory.ParseChord(c.FormValue("chord"))
	if err != nil {
		return nil, err
	}
	e := edit.SetShape{Instrument: ins, Chord: ch, Bar: barID(c)}
	switch frets, fingers := cmp.Or(text(c), strings.TrimSpace(c.FormValue("own"))), strings.TrimSpace(c.FormValue("fingers")); {
	case frets == "" && fingers != "":
		return nil, fmt.Errorf("write the frets of the shape too, with the fingers beside them")
	case frets != "" && fingers != "":
		e.Grip, err = fretboard.ParseGrip(frets + "/" + fingers)
	case frets != "":
		e.Grip, err = fretboard.ParseGrip(frets)
	}
	return e, err
}

// readRoot keeps the thumb on the root of a chord, or lets it go.
func readRoot(c fiber.Ctx) (song.Edit, error) {
	ins, err := fretboard.ByID(c.FormValue("instrument"))
	if err != nil {
		return nil, err
	}
	ch, err := theory.ParseChord(c.FormValue("chord"))
	return edit.KeepRoot{Instrument: ins, Chord: ch, Keep: text(c) == "keep"}, err
}

// readPattern reads a figure that goes on a section, or on all of them.
func readPattern(c fiber.Ctx) (song.Edit, error) {
	e := edit.SetPattern{Section: sectionID(c), Name: c.FormValue("words")}
	var err error
	if text(c) != "" {
		e.Pattern, err = pattern.Parse(text(c))
	}
	return e, err
}

// readPart gives a section the pattern that is named, or takes its own away.
func (s *server) readPart(c fiber.Ctx) (song.Edit, error) {
	e := edit.SetPattern{Section: sectionID(c)}
	if text(c) == "" {
		return e, nil
	}
	p, err := s.Patterns.Pattern(c.Context(), who(c), text(c))
	if isNotFound(err) {
		return nil, refuse("that pattern isn’t there any more")
	}
	e.Pattern, e.Name = p.Entry.Pattern, p.Name
	return e, err
}

// readMove finds a move of the song by its key among those that are offered.
func (s *server) readMove(c fiber.Ctx) (song.Edit, error) {
	on, rows, err := s.loadSong(c)
	if err != nil {
		return nil, err
	}
	for _, m := range s.Songs.AroundSong(on, rows, false).Moves {
		if m.Key == text(c) {
			return m.Edit, nil
		}
	}
	return nil, refuse("that can’t be done to the song in its current state")
}
