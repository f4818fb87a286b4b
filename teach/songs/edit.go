package songs

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

// Clash shows both texts of a stale edit.
type Clash struct {
	Mine  string
	There string
}

// Edit carries out one edit of a version of a song and says what was done.
// Where the song has moved on in the meantime nothing is changed, and both texts
// come back.
func (t *Room) Edit(ctx context.Context, teacher ref.Teacher, id ref.Song, version int, e song.Edit) (says string, clash *Clash, err error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return "", nil, err
	}
	if version != sg.Version {
		return "", clashOf(e, sg.Song), nil
	}
	edited, d, err := sg.Apply(e)
	if err != nil {
		return "", nil, answer.Refused(err)
	}
	sg.Song = edited
	var stale *store.StaleError
	if err := t.Store.SaveSong(ctx, teacher, sg, d); errors.As(err, &stale) {
		now, err := t.Store.Song(ctx, teacher, id)
		return "", clashOf(e, now.Song), err
	} else if err != nil {
		return "", nil, err
	}
	return edit.DoneWords.Say(d) + unknownChords(edited, e), nil, nil
}

// unknownChords says which chords of a bar that was written nobody knows: it was saved as it
// was typed, but has no shape and is not played.
func unknownChords(sg song.Song, e song.Edit) string {
	set, ok := e.(edit.SetBar)
	if !ok {
		return ""
	}
	i, j := sg.BarAt(set.Bar)
	if i < 0 {
		return ""
	}
	var unknown []string
	for _, ch := range sg.Sections[i].Bars[j].Changes {
		if _, err := ch.Chord(); err != nil && !song.IsNoChord(ch.Symbol) {
			unknown = append(unknown, "“"+ch.Symbol+"”")
		}
	}
	if len(unknown) == 0 {
		return ""
	}
	return fmt.Sprintf(". Arplin doesn’t know %s, so it has no shape there and isn’t played. Check the spelling, e.g. F#m7 or Bb", strings.Join(unknown, " or "))
}

func clashOf(e song.Edit, there song.Song) *Clash {
	clash := &Clash{Mine: "your last change", There: "something else in the song was changed"}
	if set, ok := e.(edit.SetBar); ok {
		clash.Mine, clash.There = set.Chords+"  "+set.Words, "this bar isn’t there any more"
		if i, j := there.BarAt(set.Bar); i >= 0 {
			bar := there.Sections[i].Bars[j]
			clash.There = song.BarText(bar.Changes, there.MeterOf(bar)) + "  " + bar.Words
		}
	}
	return clash
}

// Move takes the last edit back (-1) or does it again (+1) and says which.
// Where the song has moved on, nothing is changed, and what was done last comes back.
func (t *Room) Move(ctx context.Context, teacher ref.Teacher, id ref.Song, version, by int) (says string, clash *Clash, err error) {
	d, err := t.Store.MoveSong(ctx, teacher, id, version, by)
	var stale *store.StaleError
	if errors.As(err, &stale) {
		last, err := t.Store.LastDoneToSong(ctx, teacher, id)
		return "", &Clash{Mine: backOrForth[by], There: "last change: " + edit.DoneWords.Say(last)}, err
	}
	says, err = MovedWords(edit.DoneWords.Say(d), by, err)
	return says, nil, err
}

var backOrForth = map[int]string{-1: "undo this window’s last change", +1: "redo what this window undid"}

// MovedWords says what undo or redo has done.
func MovedWords(says string, by int, err error) (string, error) {
	switch {
	case errors.Is(err, store.ErrNoHistory) && by < 0:
		return "There’s nothing more to undo", nil
	case errors.Is(err, store.ErrNoHistory):
		return "There’s nothing more to redo", nil
	case err != nil:
		return "", err
	case by < 0:
		return "Undone: " + says, nil
	}
	return "Again: " + says, nil
}

// List is the teacher's songs that are looked for.
func (t *Room) List(ctx context.Context, teacher ref.Teacher, find store.Find) (list []store.SongLine, more bool, err error) {
	return t.Store.Songs(ctx, teacher, find)
}

// Add stores a new song.
func (t *Room) Add(ctx context.Context, teacher ref.Teacher, sg song.Song) (id ref.Song, err error) {
	if sg.Title, err = people.ShortName(sg.Title, "the song", song.MaxTitle); err != nil {
		return 0, err
	}
	return t.Store.AddSong(ctx, teacher, sg)
}

// Put puts a pattern on every section of a song.
func (t *Room) Put(ctx context.Context, teacher ref.Teacher, id ref.Song, e catalogue.Entry) (says string, version int, err error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return "", 0, err
	}
	says, clash, err := t.Edit(ctx, teacher, sg.ID, sg.Version, patterns.PutOn(e))
	if clash != nil {
		return "", 0, answer.Refuse("the song was changed in another window at the same time. Try again")
	}
	return says, sg.Version + 1, err
}
