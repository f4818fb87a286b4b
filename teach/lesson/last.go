package lesson

import (
	"encoding/json"
	"slices"

	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/store"
	"arplin/teach/ladders"
)

// left is what a lesson that is over did not reach, or cut, as far as it is still there.
func (p planning) left(over store.Lesson) (left []plan.Left) {
	var kept keptLesson
	if over.Body == "" || json.Unmarshal([]byte(over.Body), &kept) != nil {
		return nil
	}
	for _, piece := range kept.unreached(over.At) {
		id, step := kept.at(piece)
		song := slices.IndexFunc(p.ladders, func(l ladders.Ladder) bool { return l.ID == id })
		if song < 0 {
			continue
		}
		if at := ladder.Find(p.ladders[song].Steps, step); at >= 0 {
			left = append(left, plan.Left{Kind: piece.Kind, Song: song, Step: at, Day: ladders.DayOf(over.Ended)})
		}
	}
	return left
}

// wasNew is what was new in a lesson that is over, where it was reached and is still there.
func (p planning) wasNew(over store.Lesson) *plan.Left {
	var kept keptLesson
	if over.Body == "" || json.Unmarshal([]byte(over.Body), &kept) != nil {
		return nil
	}
	for i, piece := range kept.Plan.Pieces {
		if piece.Kind != plan.NewThing || i > over.At || slices.Contains(kept.Cut, i) || piece.Step < 0 {
			continue
		}
		id, step := kept.at(piece)
		song := slices.IndexFunc(p.ladders, func(l ladders.Ladder) bool { return l.ID == id })
		if song < 0 {
			return nil
		}
		if at := ladder.Find(p.ladders[song].Steps, step); at >= 0 {
			return &plan.Left{Kind: piece.Kind, Song: song, Step: at, Day: ladders.DayOf(over.Ended)}
		}
	}
	return nil
}

// unreached are the pieces about a step that were cut, or come after the one at which a
// lesson has ended.
func (k keptLesson) unreached(at int) (list []plan.Piece) {
	for i, piece := range k.Plan.Pieces {
		if (i > at || slices.Contains(k.Cut, i)) && piece.Step >= 0 && (piece.Kind == plan.NewThing || piece.Kind == plan.LastTime) {
			list = append(list, piece)
		}
	}
	return list
}

// skipped are all pieces that were cut, or come after the one at which a lesson has ended.
func (k keptLesson) skipped(at int) (names []string) {
	for i, piece := range k.Plan.Pieces {
		if name := "“" + piece.Kind.Name() + "”"; (i > at || slices.Contains(k.Cut, i)) && piece.Kind != plan.Rest && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return names
}
