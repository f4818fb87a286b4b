package files

import (
	"context"
	"slices"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/format/bundle"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/people"
)

// home writes what a class's students played at home.
func (p *packer) home(ctx context.Context, id ref.Class, here map[ref.Student]bundle.UID, ladders map[ref.Ladder]bundle.UID) error {
	entries, err := p.Store.Home(ctx, p.teacher, id, 0, time.Unix(0, 0))
	if err != nil {
		return err
	}
	for _, e := range entries {
		student, on := here[e.StudentID], ladders[e.LadderID]
		if student == "" || on == "" && e.LadderID != 0 {
			continue // of somebody or something that is archived
		}
		p.out.Home = append(p.out.Home, bundle.HomeEntry{
			Student: student, Ladder: on, Step: int(e.Step), Card: e.Card, Went: string(e.Went), Tempo: e.Tempo, Minutes: e.Minutes, Even: e.Even,
			Word: string(e.Word), ClientID: e.ClientID, At: e.At.UTC(), Came: e.Came.UTC(),
		})
	}
	return nil
}

// home reads what was played at home. It comes with its students: of those who are here already it is here
// by the phone, or it is left.
func (u *unpacker) home(ctx context.Context) error {
	if len(u.b.Home) == 0 {
		return nil
	}
	k := TakingKind{ID: "brings-home", Many: true}
	known, err := u.Store.HomeNames(ctx, u.teacher)
	if err != nil {
		return err
	}
	classes := map[bundle.UID]bundle.UID{} // of students and ladders
	for _, st := range u.b.Students {
		classes[st.UID] = st.Class
	}
	for _, l := range u.b.Ladders {
		classes[l.UID] = l.Class
	}
	for i, e := range u.b.Home {
		word, wents := practice.Word(e.Word), append(slices.Clone(practice.Wents), "")
		_, says := word.Line()
		switch {
		case known[e.ClientID]:
			k.Same++
			continue
		case !u.known[e.Student] || e.Ladder != "" && !u.known[e.Ladder]:
			u.left("home, entry %d: its student or ladder is not in the file", i+1)
			continue
		case e.Ladder != "" && classes[e.Ladder] != classes[e.Student]:
			u.left("home, entry %d: its ladder is of another class than its student", i+1)
			continue
		case !u.fresh[e.Student]:
			u.left("home, entry %d: its student is here already. What was played at home comes with new students only", i+1)
			continue
		case !people.InOurTime(e.At) || !people.InOurTime(e.Came):
			u.left("home, entry %d: it is of the year %d", i+1, e.At.Year())
			continue
		case word != "" && !says || !slices.Contains(wents, practice.Went(e.Went)):
			u.left("home, entry %d: it doesn’t say how it went", i+1)
			continue
		}
		u.out.in.Home = append(u.out.in.Home, store.Coming[store.HomeEntry]{Student: ref.UID(e.Student), Ladder: ref.UID(e.Ladder), Is: store.HomeEntry{
			Step: ladder.StepID(e.Step), Card: e.Card, Went: practice.Went(e.Went), Tempo: e.Tempo, Minutes: e.Minutes, Even: e.Even, Word: word, ClientID: e.ClientID, At: e.At, Came: e.Came,
		}})
	}
	if n := len(u.out.in.Home); n > 0 {
		k.New = slices.Repeat([]string{"an entry"}, n)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}
