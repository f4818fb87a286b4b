package variation

// Rules is the table of all rules; each has its words, its conditions and both
// its directions in the file of its family. Those for ladders come first, in the
// order in which they are tried from the target down: what a class learns last
// is taken away first. Source: common practice, the ways in which teachers vary
// a figure and the sequences in which they take one apart.
var Rules = []Rule{
	secondBar, accents, chuck, palm, stops, sixteenths,
	missedStrum, moreUps, firstUp, moreOffBeats, firstOffBeat, knock, nails, figureAgain,
	ringJoins, middleJoins, moreFingers, firstFingerNote, lowFifthRule, alternatingBass, strumsJoin, betweenBeats, twoAndFour, everyBeat, middleOfBar, strokeAgain,

	thumbEveryBeat, offBeatNote, oneMoreUp, missedStrums, lastEighth, twiceTheNotes, oneFingerMore, pair, pinchMore,
	pinchJoin, stringFurther, outerString, swappedRule, turnedRoundRule, rotatedRule, threeThreeTwoRule, regrouped, zonesRule, pick, swungRule, fourthBeat, sixToABar, twelveToABar,
}

// ByID finds a rule.
func ByID(id ID) (Rule, bool) {
	for _, r := range Rules {
		if r.ID == id {
			return r, true
		}
	}
	return Rule{}, false
}
