package ladder

import (
	"slices"
)

// KeepIDs gives steps that were there before the ids that they had; the others
// get fresh ones later.
func KeepIDs(was, now []Step) []Step {
	now = slices.Clone(now)
	taken := map[StepID]bool{}
	for i, s := range now { // two alike keep each its own
		if at := Find(was, s.ID); s.ID != 0 && at >= 0 && was[at].Same(s) && !taken[s.ID] {
			taken[s.ID] = true
			now[i].Remark = was[at].Remark
		} else {
			now[i].ID = 0
		}
	}
	for i := range now {
		if now[i].ID != 0 {
			continue
		}
		for _, old := range was {
			if old.Same(now[i]) && !taken[old.ID] {
				now[i].ID, now[i].Remark = old.ID, old.Remark
				taken[old.ID] = true
				break
			}
		}
	}
	return now
}

// Inherit is KeepIDs for ladders of a time when there were no ids: of the steps
// that are left, those between the same neighbours are the same where there are
// as many, since a step that was written anew stayed in its place.
func Inherit(was, now []Step) []Step {
	now = KeepIDs(was, now)
	left := func(steps []Step, has func(StepID) bool) (free []int) {
		for i, s := range steps {
			if !has(s.ID) {
				free = append(free, i)
			}
		}
		return free
	}
	old := left(was, func(id StepID) bool { return Find(now, id) >= 0 })
	fresh := left(now, func(id StepID) bool { return id != 0 })
	if len(was) == len(now) && slices.Equal(old, fresh) {
		for _, i := range fresh {
			now[i].ID = was[i].ID
		}
	}
	return now
}

// Moved is the step on which somebody stands after steps have changed: the same
// where it is still there, else what is played the same, else, between the nearest steps below and
// above that are still there, the last that is no harder than the old one.
func Moved(was, now []Step, id StepID) StepID {
	if Find(now, id) >= 0 {
		return id
	}
	at := Find(was, id)
	if at < 0 || len(now) == 0 {
		return 0
	}
	for _, s := range now {
		if s.Same(was[at]) {
			return s.ID
		}
	}
	from, to := 0, len(now)
	for _, s := range was[:at] { // the nearest below that is there still
		if k := Find(now, s.ID); k >= 0 {
			from = k
		}
	}
	for _, s := range was[at+1:] {
		if k := Find(now, s.ID); k >= from {
			to = max(k, from+1)
			break
		}
	}
	place := now[from].ID
	for _, s := range now[from:to] {
		if s.Level <= was[at].Level {
			place = s.ID
		}
	}
	return place
}
