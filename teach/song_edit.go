package teach

import (
	"context"
	"errors"

	"arplin/core/song"
	"arplin/store"
)

// Clash shows both texts of a stale edit.
type Clash struct {
	Mine  string
	There string
}

// EditSong carries out one edit of a version of a song and says what was done.
// Where the song has moved on in the meantime nothing is changed, and both texts
// come back.
func (t *Teach) EditSong(ctx context.Context, teacher store.TeacherID, id store.SongID, version int, e song.Edit) (says string, clash *Clash, err error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return "", nil, err
	}
	if version != sg.Version {
		return "", clashOf(e, sg.Song), nil
	}
	edited, d, err := sg.Apply(e)
	if err != nil {
		return "", nil, refused(err)
	}
	sg.Song = edited
	var stale *store.StaleError
	if err := t.Store.SaveSong(ctx, teacher, sg, d); errors.As(err, &stale) {
		now, err := t.Store.Song(ctx, teacher, id)
		return "", clashOf(e, now.Song), err
	} else if err != nil {
		return "", nil, err
	}
	return song.DoneWords.Say(d), nil, nil
}

func clashOf(e song.Edit, there song.Song) *Clash {
	clash := &Clash{Mine: "what you did just now", There: "something else about the song was changed"}
	if set, ok := e.(song.SetBar); ok {
		clash.Mine, clash.There = set.Chords+"  "+set.Words, "this bar is no longer there"
		if i, j := there.BarAt(set.Bar); i >= 0 {
			bar := there.Sections[i].Bars[j]
			clash.There = song.BarText(bar.Changes, there.Meter) + "  " + bar.Words
		}
	}
	return clash
}

// MoveSong takes the last edit back (-1) or does it again (+1) and says which.
func (t *Teach) MoveSong(ctx context.Context, teacher store.TeacherID, id store.SongID, version, by int) (says string, err error) {
	d, err := t.Store.MoveSong(ctx, teacher, id, version, by)
	return movedWords(song.DoneWords.Say(d), by, err)
}

// movedWords says what undo or redo has done.
func movedWords(says string, by int, err error) (string, error) {
	var stale *store.StaleError
	switch {
	case errors.Is(err, store.ErrNoHistory) && by < 0:
		return "There is nothing more to undo", nil
	case errors.Is(err, store.ErrNoHistory):
		return "There is nothing more to redo", nil
	case errors.As(err, &stale):
		return "", refuse("something was changed here in the meantime, in another window perhaps; look at the page as it is now, then try again")
	case err != nil:
		return "", err
	case by < 0:
		return "Taken back: " + says, nil
	}
	return "Again: " + says, nil
}
