package variation

import (
	"arplin/core/pattern"
)

// Rules of what falls together: pinches and pairs. Source: common practice.
var (
	pair = Rule{ID: "a-pair", notes: true,
		less: atPlaces(pairOut), more: atPlaces(pairAdded),
		More: Words{"a pair", "A second finger joins a single note.", ""},
		Less: Words{"a pair taken apart", "Only one of the two fingers plays.", ""},
	}
	pinchMore = Rule{ID: "a-pinch-more", notes: true,
		less: atPlaces(pinchOut), more: atPlaces(pinchAdded),
		More: Words{"one more pinch", "A finger plays with the thumb once more.", ""},
		Less: Words{"one fewer pinch", "The thumb plays alone where a finger played with it.", ""},
	}
	pinchJoin = Rule{ID: "a-pinch-joined",
		less: atPlaces(pinchSplit), more: atPlaces(pinchJoined),
		More: Words{"joined to a pinch", "The note after the thumb moves on to it.", ""},
		Less: Words{"a pinch split", "Thumb first, the finger right after it.", ""},
	}
)

// neighbour is the finger beside one, away from the thumb.
var neighbour = map[pattern.Sign]pattern.Sign{pattern.Index: pattern.Middle, pattern.Middle: pattern.Ring}

func pairAdded(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if len(bar[i].Strokes) != 1 || !p.OnBeat(i) {
		return false
	}
	st := bar[i].Strokes[0]
	next, ok := neighbour[st.Sign]
	if !ok || st.Target.Kind != pattern.ByChord {
		return false
	}
	bar[i].Strokes = append(bar[i].Strokes, pattern.Stroke{Sign: next})
	return true
}

func pairOut(_ pattern.Pattern, bar pattern.Bar, i int) bool {
	if len(bar[i].Strokes) != 2 || !isFinger(bar[i].Strokes[0]) || !isFinger(bar[i].Strokes[1]) {
		return false
	}
	bar[i].Strokes = bar[i].Strokes[:1]
	return true
}

// pinched reports a thumb with one finger.
func pinched(slot pattern.Slot) bool {
	return len(slot.Strokes) == 2 && slot.Strokes[0].Sign == pattern.Thumb && isFinger(slot.Strokes[1])
}

func pinchOut(_ pattern.Pattern, bar pattern.Bar, i int) bool {
	if !pinched(bar[i]) {
		return false
	}
	bar[i].Strokes = bar[i].Strokes[:1]
	return true
}

func pinchAdded(p pattern.Pattern, bar pattern.Bar, i int) bool {
	if p.HasStrums() || len(bar[i].Strokes) != 1 || bar[i].Strokes[0].Sign != pattern.Thumb {
		return false
	}
	bar[i].Strokes = append(bar[i].Strokes, pattern.Stroke{Sign: pattern.Middle})
	return true
}

func pinchSplit(_ pattern.Pattern, bar pattern.Bar, i int) bool {
	if !pinched(bar[i]) || i+1 >= len(bar) || !bar[i+1].Empty() {
		return false
	}
	bar[i+1].Strokes = []pattern.Stroke{bar[i].Strokes[1]}
	bar[i].Strokes = bar[i].Strokes[:1]
	return true
}

func pinchJoined(_ pattern.Pattern, bar pattern.Bar, i int) bool {
	if i+1 >= len(bar) || len(bar[i].Strokes) != 1 || bar[i].Strokes[0].Sign != pattern.Thumb || len(bar[i+1].Strokes) != 1 || !isFinger(bar[i+1].Strokes[0]) {
		return false
	}
	bar[i].Strokes = append(bar[i].Strokes, bar[i+1].Strokes[0])
	bar[i+1] = pattern.Slot{}
	return true
}
