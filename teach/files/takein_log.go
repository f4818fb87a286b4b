package files

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"arplin/core/arrange"
	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/song"
	"arplin/format/bundle"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

func (u *unpacker) log(ctx context.Context) error {
	k := TakingKind{ID: "brings-tries", Many: true}
	here, err := u.Store.EntryNames(ctx, u.teacher)
	if err != nil {
		return err
	}
	for i, e := range u.b.Log {
		if here[ref.UID(e.UID)] {
			k.Same++
			continue
		}
		read, err := ladder.Decode(e.Step)
		if err != nil || len(read.Steps) != 1 || !u.known[e.Student] || !u.known[e.Ladder] {
			u.left("log, %d: it cannot be read, or its student or ladder is not in the file", i+1)
			continue
		}
		entry := store.Entry{
			Step: read.Steps[0], Tempo: e.Tempo, Failed: e.Failed, Errors: practice.Errors(e.Errors), Minutes: e.Minutes, Fault: fault.Fault(e.Fault), Word: e.Word, Taken: e.Taken, Bar: song.BarID(e.Bar), At: e.At,
		}
		if err := people.CheckEntry(entry); err != nil {
			u.left("log, %d: %v", i+1, err)
			continue
		}
		u.out.in.Log = append(u.out.in.Log, store.Coming[store.Entry]{UID: ref.UID(e.UID), Student: ref.UID(e.Student), Ladder: ref.UID(e.Ladder), Is: entry})
	}
	if n := len(u.out.in.Log); n > 0 {
		k.New = slices.Repeat([]string{"a try"}, n)
	}
	u.out.Kinds = append(u.out.Kinds, k)
	return nil
}

// plans are the term of a class that is new, and the arrangements of ladders that are.
func (u *unpacker) plans(context.Context) error {
	for i, term := range u.b.Terms {
		begins, errBegins := time.Parse(time.DateOnly, term.Begins)
		concert, errConcert := time.Parse(time.DateOnly, term.Concert)
		if errors.Join(errBegins, errConcert) != nil || !u.known[term.Class] || !u.known[term.Ladder] {
			u.left("terms, %d: its days cannot be read, or its class or ladder is not in the file", i+1)
			continue
		}
		read := store.Term{Begins: begins, Concert: concert, Name: term.Name, At: term.At}
		for _, day := range term.Off {
			off, err := time.Parse(time.DateOnly, day)
			if err != nil {
				u.left("terms, %d: %q is no day off", i+1, day)
				continue
			}
			read.Off = append(read.Off, off)
		}
		var more []ref.UID
		for _, uid := range term.More {
			if u.known[uid] {
				more = append(more, ref.UID(uid))
			}
		}
		checked, err := people.CheckTerm(read)
		if err != nil {
			u.left("terms, %d: %v", i+1, err)
			continue
		}
		if u.fresh[term.Class] {
			u.out.in.Terms = append(u.out.in.Terms, store.Coming[store.Term]{Class: ref.UID(term.Class), Ladder: ref.UID(term.Ladder), More: more, Is: checked})
		}
	}
	for i, a := range u.b.Arrangements {
		if err := u.checkArrangement(a); err != nil {
			u.left("arrangements, %d: %v", i+1, err)
			continue
		}
		if u.fresh[a.Ladder] {
			u.out.in.Arrangements = append(u.out.in.Arrangements, store.Coming[store.Arranged]{Ladder: ref.UID(a.Ladder), Is: func(row func(ref.UID) int64) (string, error) { return arranged(a, row) }})
		}
	}
	return nil
}

// checkArrangement refuses one that the page of who plays what could not have made: each student
// stands in one group, and every group has a part in each pass.
func (u *unpacker) checkArrangement(a bundle.Arrangement) error {
	seen := map[bundle.UID]bool{}
	for _, group := range a.Groups {
		for _, st := range group {
			if !u.known[st] {
				return answer.Refuse("a student in it is not in the file")
			}
			if seen[st] {
				return answer.Refuse("a student is in it twice")
			}
			seen[st] = true
		}
	}
	var passes []arrange.Pass
	if json.Unmarshal(a.Passes, &passes) != nil || len(passes) != len(a.Parts) || len(passes) > song.MaxBars {
		return answer.Refuse("its passes cannot be read")
	}
	for _, parts := range a.Parts {
		if len(parts) != len(a.Groups) {
			return answer.Refuse("it does not have a part for each group")
		}
	}
	return nil
}
