package files

import (
	"bytes"
	"context"

	"arplin/core/ladder"
	"arplin/format/bundle"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/people"
)

// takes writes the recordings of a class's students that were kept.
func (p *packer) takes(ctx context.Context, id ref.Class, here map[ref.Student]bundle.UID, ladders map[ref.Ladder]bundle.UID) error {
	kept, err := p.Store.Takes(ctx, p.teacher, id, 0)
	if err != nil {
		return err
	}
	for _, t := range kept {
		student, on := here[t.StudentID], ladders[t.LadderID]
		if student == "" {
			continue // of somebody who is archived
		}
		if on == "" { // of another class by now, or archived: the take goes along, and is on none
			t.Step = 0
		}
		sound, err := p.Store.TakeSound(ctx, p.teacher, t.ID)
		if err != nil {
			return err
		}
		p.out.Takes = append(p.out.Takes, bundle.Take{
			UID: bundle.UID(t.UID), Student: student, Ladder: on, Step: int(t.Step), Tempo: t.Tempo, Seconds: t.Seconds, Says: t.Says, Sound: sound, Home: t.Home, At: t.At.UTC(),
		})
	}
	return nil
}

// takes reads recordings. They come with their students, as what was played at home does.
func (u *unpacker) takes(ctx context.Context) error {
	if len(u.b.Takes) == 0 {
		return nil
	}
	k := TakingKind{ID: "brings-takes", Many: true}
	known, err := u.Store.TakeNames(ctx, u.teacher)
	if err != nil {
		return err
	}
	here := len(known)
	room, err := u.Store.TakeRoom(ctx, u.teacher)
	if err != nil {
		return err
	}
	for i, t := range u.b.Takes {
		wrong := people.CheckEntry(store.Entry{Tempo: t.Tempo, At: t.At}) // which a take becomes when it is logged
		switch {
		case known[ref.UID(t.UID)]:
			k.Same++
			continue
		case !u.known[t.Student] || t.Ladder != "" && !u.known[t.Ladder]:
			u.left("take %d: its student or ladder is not in the file", i+1)
			continue
		case t.Ladder != "" && u.classOf(t.Ladder) != u.classOf(t.Student):
			u.left("take %d: its ladder is of another class than its student", i+1)
			continue
		case !u.fresh[t.Student]:
			u.left("take %d: its student is here already. Takes come with new students only", i+1)
			continue
		case !bytes.HasPrefix(t.Sound, []byte("fLaC")):
			u.left("take %d: its sound isn’t a FLAC file", i+1)
			continue
		case wrong != nil:
			u.left("take %d: %v", i+1, wrong)
			continue
		case here >= store.MostTakes || len(t.Sound) > room:
			u.left("take %d: there’s no room for it. Delete a take first", i+1)
			continue
		}
		here, room = here+1, room-len(t.Sound)
		u.out.in.Takes = append(u.out.in.Takes, store.Coming[store.Take]{Student: ref.UID(t.Student), Ladder: ref.UID(t.Ladder), Sound: t.Sound, Is: store.Take{
			UID: ref.UID(t.UID), Step: ladder.StepID(t.Step), Tempo: t.Tempo, Seconds: t.Seconds, Says: letters.Cut(t.Says, store.MostTakeWords), Home: t.Home, At: t.At,
		}})
		k.New = append(k.New, "a take")
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

// classOf is the class of a student or a ladder of the file.
func (u *unpacker) classOf(uid bundle.UID) bundle.UID {
	for _, st := range u.b.Students {
		if st.UID == uid {
			return st.Class
		}
	}
	for _, l := range u.b.Ladders {
		if l.UID == uid {
			return l.Class
		}
	}
	return ""
}
