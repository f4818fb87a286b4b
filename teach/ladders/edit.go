package ladders

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/edit"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern/catalogue"
	"arplin/core/song"
	"arplin/draw"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Edit carries out one edit of a version of a ladder and says what was done.
func (t *Room) Edit(ctx context.Context, teacher ref.Teacher, l Ladder, version int, e edit.Edit) (says string, err error) {
	edited, d, err := edit.Apply(l.Ladder.Ladder, e, l.Task, l.Class.Weigh())
	if err != nil {
		return "", answer.Refused(err)
	}
	saved := l.Ladder
	saved.Ladder, saved.Version = edited, version
	var stale *store.StaleError
	if err := t.Store.SaveLadder(ctx, teacher, saved, d); errors.As(err, &stale) {
		return "", t.changedLadder(ctx, teacher, l.ID)
	} else if err != nil {
		return "", err
	}
	return edit.DoneWords.Say(d), nil
}

// Changed refuses what was asked of a page that is not the newest any more.
type Changed struct{ Last string }

func (c *Changed) Error() string {
	return fmt.Sprintf("nothing was changed here. This ladder was changed in another window (last change: %s). This is the latest version", c.Last)
}

func (t *Room) changedLadder(ctx context.Context, teacher ref.Teacher, id ref.Ladder) error {
	last, err := t.Store.LastDoneToLadder(ctx, teacher, id)
	if err != nil {
		return err
	}
	return &Changed{edit.DoneWords.Say(last)}
}

// Move takes the last change of a ladder's version back (-1) or does it
// again (+1), students included, and says what that was.
func (t *Room) Move(ctx context.Context, teacher ref.Teacher, l Ladder, version, by int) (says string, err error) {
	m, err := t.Store.MoveLadder(ctx, teacher, l.ID, version, by)
	var stale *store.StaleError
	if errors.As(err, &stale) {
		return "", t.changedLadder(ctx, teacher, l.ID)
	}
	if err != nil {
		return songs.MovedWords("", by, err)
	}
	words := edit.DoneWords.Say(m.Done)
	if m.Done.ID == edit.Placed().ID {
		words = l.placesText(m.Before, m.Now)
	}
	return songs.MovedWords(words, by, nil)
}

// placesText says who stands elsewhere than before.
func (l Ladder) placesText(before, now store.Places) string {
	var said []string
	for _, st := range l.Class.Students {
		at := ladder.Find(l.Steps, now[st.ID])
		switch {
		case before[st.ID] == now[st.ID]:
		case at < 0:
			said = append(said, st.Name+" waits")
		default:
			said = append(said, fmt.Sprintf("%s on step %d", st.Name, at+1))
		}
	}
	if len(said) == 0 {
		return "nobody has moved"
	}
	return strings.Join(said, ", ")
}

// NewLadder is what a ladder is made of.
type NewLadder struct {
	Song       ref.Song
	Pattern    string // a pattern's name; empty for what the song is written with
	Section    song.SectionID
	Instrument string
	order.Choice
	Begin ladder.Beginning
}

// Make takes a pattern apart for a song and a class.
func (t *Room) Make(ctx context.Context, teacher ref.Teacher, c people.Class, n NewLadder) (ref.Ladder, error) {
	l, on, err := t.wanted(ctx, teacher, c, n)
	if err != nil {
		return 0, err
	}
	l.Ladder = ladder.Ladder{Choice: n.Choice, Begin: n.Begin, Steps: grow.Build(n.Choice, on, c.Weigh(), 0)}
	return t.Store.AddLadder(ctx, teacher, l)
}

// Offer is what is asked before a ladder is made, with what is proposed.
type Offer struct {
	order.Choice
	Begin   ladder.Beginning
	Begins  []string // the chords in the order in which they would come
	Several bool     // figures, a part each
}

// Offer proposes how a ladder would be built.
func (t *Room) Offer(ctx context.Context, teacher ref.Teacher, c people.Class, n NewLadder) (Offer, error) {
	_, on, err := t.wanted(ctx, teacher, c, n)
	return Offer{n.Choice, n.Begin, on.Order, len(on.Rest) > 0}, err
}

// wanted is a ladder that is to be made, without its steps, and the target on its song.
func (t *Room) wanted(ctx context.Context, teacher ref.Teacher, c people.Class, n NewLadder) (l store.Ladder, on difficulty.Task, err error) {
	sg, err := t.Store.Song(ctx, teacher, n.Song)
	if err != nil {
		return l, on, err
	}
	var sections []song.SectionID
	if n.Section != 0 {
		i := sg.SectionAt(n.Section)
		if i < 0 {
			return l, on, answer.Refuse("that section is not in the song any more; load its page again")
		}
		sections = sg.Named(sg.Sections[i].Name)
	}
	target, err := t.targetOn(ctx, teacher, sg, sections, n.Pattern)
	if err != nil {
		return l, on, err
	}
	var others []difficulty.Figure // what the song is written with is stepped part by part
	if n.Pattern == "" {
		part := sg.Part(sections)
		if _, others, _ = difficulty.FiguresOf(part); len(others) > 0 {
			target.Name = letters.Cut(strings.Join(songs.WrittenNames(part), ", "), song.MaxPatternName)
		}
	}
	ins := c.Instrument(n.Instrument)
	return store.Ladder{
		ClassID: c.ID, SongID: sg.ID, Sections: sections, Instrument: ins.ID, PatternName: target.Name, Target: target.Pattern,
	}, LadderTask(target.Pattern, others, n.Begin, sg.Song, sections, ins, c), nil
}

// targetOn is the pattern that is named; without a name the one that the section,
// or the first section that has one, is written with.
func (t *Room) targetOn(ctx context.Context, teacher ref.Teacher, sg store.Song, sections []song.SectionID, ref string) (catalogue.Entry, error) {
	p, err := t.Patterns.Pattern(ctx, teacher, ref)
	if ok, err := answer.Found(err); err != nil {
		return catalogue.Entry{}, err
	} else if ok && p.Entry.Pattern.Meter == sg.Meter {
		return p.Entry, nil
	}
	if own, ok := songs.WrittenOn(sg.Part(sections)); ok && ref == "" {
		return own, nil
	}
	return catalogue.Entry{}, answer.Refuse("choose a pattern in %s for this song", sg.Meter)
}

// Reuse makes the same ladder for another song.
func (t *Room) Reuse(ctx context.Context, teacher ref.Teacher, l Ladder, id ref.Song) (ref.Ladder, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return 0, err
	}
	if l.OfTune() {
		return t.MakeTuneLadder(ctx, teacher, l.Class, id, l.Instrument.ID)
	}
	if sg.Meter != l.Target.Meter {
		return 0, answer.Refuse("this ladder is in %s, %s in %s", l.Target.Meter, sg.Title, sg.Meter)
	}
	steps, err := grow.Reuse(l.Ladder.Ladder, LadderTask(l.Target, nil, ladder.Beginning{}, sg.Song, nil, l.Instrument, l.Class), l.Class.Weigh())
	if err != nil {
		return 0, answer.Refused(err)
	}
	return t.Store.AddLadder(ctx, teacher, store.Ladder{
		ClassID: l.ClassID, SongID: sg.ID, Instrument: l.Instrument.ID, PatternName: l.PatternName, Target: l.Target, Ladder: ladder.Ladder{Choice: l.Choice, Steps: steps},
	})
}

// Line is a ladder in a list.
type Line struct {
	store.LadderLine
	Part string
	Lane draw.SVG
}

// List lists a page of a class's ladders; more tells whether there is another.
func (t *Room) List(ctx context.Context, teacher ref.Teacher, c people.Class, f store.Find) (lines []Line, more bool, err error) {
	list, more, err := t.Store.Ladders(ctx, teacher, c.ID, f)
	if err != nil {
		return nil, false, err
	}
	lines, err = t.ladderLines(ctx, teacher, list)
	return lines, more, err
}

// ladderLines draws lines of a list, with the parts that they are for.
func (t *Room) ladderLines(ctx context.Context, teacher ref.Teacher, list []store.LadderLine) (lines []Line, err error) {
	var parts []ref.Song // of ladders that are for a part of their song
	for _, l := range list {
		if len(l.Sections) > 0 {
			parts = append(parts, l.SongID)
		}
	}
	songs, err := t.Store.SongsOf(ctx, teacher, parts)
	for _, l := range list {
		notation := l.Target.String()
		lane := answer.Keep(t.From, "lane", answer.Rows(notation), func() draw.SVG { return draw.Lane(l.Target, nil, l.Target.Aloud()) })
		lines = append(lines, Line{l, partName(songs[l.SongID].Song, l.Sections), lane})
	}
	return lines, err
}

// SongsInMeter lists the other songs for which a ladder can be used again.
func (t *Room) SongsInMeter(ctx context.Context, teacher ref.Teacher, l Ladder) (list []store.SongLine, err error) {
	songs, err := t.Store.SongsIn(ctx, teacher, l.Song.Meter.String())
	for _, sg := range songs {
		if sg.ID != l.Song.ID {
			list = append(list, sg)
		}
	}
	return list, err
}

// SetProgress puts a ladder on its class's desk, sets it aside, or finishes it.
func (t *Room) SetProgress(ctx context.Context, teacher ref.Teacher, id ref.Ladder, progress string) (says string, was store.Progress, err error) {
	l, err := t.Store.Ladder(ctx, teacher, id) // as it is stored: one that cannot be computed goes off the desk, too
	if err != nil {
		return "", "", err
	}
	to, ok := store.ParseProgress(progress)
	if !ok {
		return "", "", answer.Refuse("choose on the Desk, aside or finished")
	}
	switch err := t.Store.SetProgress(ctx, teacher, l.ID, to); {
	case errors.Is(err, store.ErrFull):
		return "", "", answer.Refuse("the Desk holds %d songs. Set one aside first", store.MostNow)
	case err != nil:
		return "", "", err
	}
	switch to {
	case store.Finished:
		return fmt.Sprintf("“%s” is finished. Everyone’s step is kept.", l.SongTitle), l.Progress, nil
	case store.Aside:
		return fmt.Sprintf("“%s” is set aside. You can put it back on the Desk.", l.SongTitle), l.Progress, nil
	}
	return fmt.Sprintf("“%s” is on the Desk.", l.SongTitle), l.Progress, nil
}

// Rename gives a ladder another name.
func (t *Room) Rename(ctx context.Context, teacher ref.Teacher, id ref.Ladder, name string) error {
	name = strings.Join(strings.Fields(name), " ")
	if n := letters.Count(name); n == 0 || n > song.MaxPatternName {
		return answer.Refuse("a ladder’s name has 1 to %d characters", song.MaxPatternName)
	}
	return t.Store.RenameLadder(ctx, teacher, id, name)
}
