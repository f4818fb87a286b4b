package practice

// Schools are a class's sides in the questions that show in the posture.
type Schools struct {
	Anchor    bool // a light anchor of the little finger
	LongNails bool
	Wrist     bool // strums from the wrist
	Moving    bool // fingers follow the chord
}

// Posture says how the right hand is held, for a pattern that plucks, strums or
// both. Source: common practice; teachers disagree, so the class's side is told.
func Posture(s Schools, plucks, strums bool) []string {
	var lines []string
	if plucks {
		lines = append(lines,
			choose(s.Anchor, "The little finger rests lightly on the top; it carries no weight.", "The hand floats; nothing rests on the top."),
			"Fingers pull the string out and away from the instrument. Only the fingers move, the knuckles stay.",
			"The index plucks a little behind the thumb, so that they never collide.",
			choose(s.Moving, "The thumb has the bass strings; index and middle follow the chord.", "Each finger keeps its string; only the thumb moves to the root."),
			choose(s.LongNails, "Nails are all long, filed smooth. A torn nail is a rest day.", "Nails are all short: the tone comes from the fingertip."))
	}
	if strums {
		lines = append(lines,
			choose(s.Wrist, "The strum comes from the wrist; the elbow is still.", "The strum comes from the forearm; the wrist is quiet."),
			"The hand keeps moving: down on the beat, up after it, also where nothing is struck.")
	}
	return lines
}

func choose(first bool, a, b string) string {
	if first {
		return a
	}
	return b
}
