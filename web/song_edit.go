package web

import (
	"errors"
	"fmt"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/hand"
	"arplin/core/song"
	"arplin/store"
)

// conflict shows both texts of a stale edit.
type conflict struct {
	Edit  song.Edit
	Mine  string
	There string
}

// readEdit takes an edit from the form.
func readEdit(c fiber.Ctx) song.Edit {
	section, _ := strconv.Atoi(c.FormValue("section")) // a number that is none is the first part
	bar, _ := strconv.Atoi(c.FormValue("bar"))
	text := strings.TrimSpace(c.FormValue("about") + " " + c.FormValue("text")) // what the text is about, where the form knows it
	return song.Edit{Op: c.FormValue("op"), Section: section, Bar: bar, Text: text, Words: c.FormValue("words")}
}

// editSong carries out one edit. A stale one comes back with both texts.
func (s *server) editSong(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	sg, err := s.Store.Song(c.Context(), teacherID(c), id)
	if err != nil {
		return err
	}
	edit := readEdit(c)
	version, err := strconv.Atoi(c.FormValue("version"))
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, "The page is not whole; load it again.")
	}
	if version != sg.Version {
		return s.renderSong(c, Note{}, clashOf(edit, sg.Song))
	}
	return s.saveEdit(c, sg, edit)
}

// patternEdit puts a pattern on every part.
func patternEdit(e hand.Entry) song.Edit {
	return song.Edit{Op: song.SetPattern, Section: -1, Text: e.Notation, Words: e.Name}
}

// saveEdit applies an edit to the song as it was loaded and stores it.
func (s *server) saveEdit(c fiber.Ctx, sg store.Song, edit song.Edit) error {
	edited, says, err := sg.Apply(edit)
	if err != nil {
		return fiber.NewError(fiber.StatusUnprocessableEntity, sentenceOf(err))
	}
	sg.Song = edited
	var stale *store.StaleError
	err = s.Store.SaveSong(c.Context(), teacherID(c), sg, says)
	if errors.As(err, &stale) {
		return s.renderSong(c, Note{}, clashOf(edit, stale.Current.Song))
	}
	if err != nil {
		return err
	}
	return s.songAfter(c, sg.ID, Note{Text: says + ".", Undo: fmt.Sprintf("/songs/%d/undo", sg.ID)})
}

func clashOf(edit song.Edit, there song.Song) *conflict {
	clash := &conflict{Edit: edit, Mine: edit.Text, There: "something else about the song was changed"}
	if edit.Op == song.SetBar {
		clash.Mine = edit.Text + "  " + edit.Words
		clash.There = "this bar is no longer there"
		if edit.Section < len(there.Sections) && edit.Bar < len(there.Sections[edit.Section].Bars) {
			bar := there.Sections[edit.Section].Bars[edit.Bar]
			clash.There = song.BarText(bar.Changes, there.Meter) + "  " + bar.Words
		}
	}
	return clash
}

// songAfter shows the song, or the key table from which the edit came.
func (s *server) songAfter(c fiber.Ctx, id int64, note Note) error {
	if wantsFragment(c) {
		return s.renderSong(c, note, nil)
	}
	leaveNote(c, note.Text, note.Undo)
	path := fmt.Sprintf("/songs/%d", id)
	if c.FormValue("back") == "keys" {
		return seeOther(c, path+"/keys")
	}
	return seeOther(c, path+"?"+string(c.Request().URI().QueryString()))
}

func (s *server) undoSong(c fiber.Ctx) error { return s.moveSong(c, -1) }
func (s *server) redoSong(c fiber.Ctx) error { return s.moveSong(c, +1) }

func (s *server) moveSong(c fiber.Ctx, step int) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	sg, err := s.Store.Song(c.Context(), teacherID(c), id)
	if err != nil {
		return err
	}
	says, err := s.Store.MoveSong(c.Context(), teacherID(c), id, sg.Version, step)
	switch {
	case errors.Is(err, store.ErrNoHistory):
		return s.songAfter(c, id, Note{Text: "There is nothing more to " + map[int]string{-1: "undo", 1: "redo"}[step] + "."})
	case err != nil:
		return err
	case step < 0:
		return s.songAfter(c, id, Note{Text: "Taken back: " + says + "."})
	}
	return s.songAfter(c, id, Note{Text: "Again: " + says + "."})
}
