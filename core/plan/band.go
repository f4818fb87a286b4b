package plan

import (
	"errors"
	"slices"

	"arplin/core/practice"
)

// Limits of a lesson, in minutes.
const (
	MinLesson = 5
	MaxLesson = 240
)

// Hands rest after so many minutes of playing, for so long.
const (
	longestPlay = practice.LongestPlay
	restMinutes = 2
)

// share is a piece of a lesson with its minutes in one of 45, and the least that it is
// worth doing with.
type share struct {
	kind       Kind
	of45, from int
}

// shares are in the order of a lesson. Source: common practice.
var shares = []share{{Tune, 3, 2}, {WarmUp, 4, 2}, {LastTime, 6, 3}, {NewThing, 11, 5}, {Groups, 11, 6}, {Together, 7, 3}, {TakeHome, 3, 1}}

// firstLeftOut are the pieces that a short lesson does without, the first first.
var firstLeftOut = []Kind{LastTime, Groups, Tune, NewThing, TakeHome, WarmUp}

// slot is a piece of the band, before it is known what is done in it.
type slot struct {
	kind    Kind
	minutes int
}

// band divides a lesson into pieces that add up exactly, with a rest wherever hands
// would play longer than they should; some kinds are not wanted.
func band(minutes int, without ...Kind) []slot {
	for rests := 0; ; rests++ {
		playing := minutes - rests*restMinutes
		list := withRests(divide(fitting(playing, without), playing))
		there := 0
		for _, s := range list {
			if s.kind == Rest {
				there++
			}
		}
		if there <= rests {
			return longerRest(list, (rests-there)*restMinutes)
		}
	}
}

// longerRest spends what was kept for a rest that is not needed: on the last one, or on
// one before the song where there is none.
func longerRest(list []slot, over int) []slot {
	if over == 0 {
		return list
	}
	for i := len(list) - 1; i >= 0; i-- {
		if list[i].kind == Rest {
			list[i].minutes += over
			return list
		}
	}
	at := max(1, slices.IndexFunc(list, func(s slot) bool { return s.kind == Together }))
	return slices.Insert(list, at, slot{Rest, over})
}

// fitting are the shares for which there is time.
func fitting(minutes int, without []Kind) []share {
	list, least := slices.DeleteFunc(slices.Clone(shares), func(s share) bool { return slices.Contains(without, s.kind) }), 0
	for _, s := range list {
		least += s.from
	}
	for _, kind := range firstLeftOut {
		if least <= minutes {
			break
		}
		i := slices.IndexFunc(list, func(s share) bool { return s.kind == kind })
		if i < 0 {
			continue
		}
		least -= list[i].from
		list = slices.Delete(list, i, i+1)
	}
	return list
}

// divide gives each share its part, at least its least, by largest remainders.
func divide(list []share, minutes int) []slot {
	weights, out := make([]int, len(list)), make([]slot, len(list))
	left := minutes
	for i, s := range list {
		out[i] = slot{s.kind, min(s.from, left)}
		left -= out[i].minutes
		weights[i] = max(0, s.of45-s.from) + 1
	}
	for i, more := range portions(left, weights) {
		out[i].minutes += more
	}
	return out
}

// portions parts a whole by weights, exactly: what rounding leaves goes to the largest
// remainders.
func portions(whole int, weights []int) []int {
	sum := 0
	for _, w := range weights {
		sum += w
	}
	parts, order, given := make([]int, len(weights)), make([]int, len(weights)), 0
	if sum == 0 {
		return parts
	}
	for i, w := range weights {
		parts[i], order[i] = whole*w/sum, i
		given += parts[i]
	}
	slices.SortStableFunc(order, func(a, b int) int { return whole*weights[b]%sum - whole*weights[a]%sum })
	for i := range whole - given {
		parts[order[i]]++
	}
	return parts
}

// withRests puts rests where the hands would play too long without one: between two
// pieces where that is soon enough, else inside a long one.
func withRests(list []slot) (out []slot) {
	played := 0
	for _, s := range list {
		for played+s.minutes > longestPlay {
			if played > longestPlay/2 || s.minutes <= longestPlay {
				if played > 0 {
					out, played = append(out, slot{Rest, restMinutes}), 0
					continue
				}
			}
			first := longestPlay - played
			out = append(out, slot{s.kind, first}, slot{Rest, restMinutes})
			s.minutes, played = s.minutes-first, 0
		}
		if s.minutes > 0 {
			out, played = append(out, s), played+s.minutes
		}
	}
	return out
}

// errBorder is a border of a band that cannot be moved so far.
var errBorder = errors.New("every item of a lesson has at least a minute")

// MoveBorder moves the border behind a piece by some minutes, to the right where they
// are positive: what one piece gets the other gives, so that the sum stays.
func MoveBorder(minutes []int, behind, by int) ([]int, error) {
	if behind < 0 || behind+1 >= len(minutes) || minutes[behind]+by < 1 || minutes[behind+1]-by < 1 {
		return minutes, errBorder
	}
	minutes = slices.Clone(minutes)
	minutes[behind] += by
	minutes[behind+1] -= by
	return minutes, nil
}
