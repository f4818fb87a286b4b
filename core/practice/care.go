package practice

// HowTo is the order in which a step is practised, on every sheet. Source:
// common practice.
var HowTo = []string{
	"Pluck each string of a new shape alone: a dead note shows at once.",
	"One chord only, counting aloud, without a metronome, until it goes by itself.",
	"Two chords, two bars each; then one bar each. The rhythm goes on through the change.",
	"The song at the slow tempo. Three times clean, and the next tempo is yours.",
}

// Care is shown where practice is planned and on every sheet. Common practice;
// no medical advice.
var Care = []string{
	"Warm up first: a few slow, soft minutes.",
	"Sit and hold the instrument without tension; shoulders low, wrist easy.",
	"Short sets with breaks. Raise the daily time slowly.",
	"Stop at pain, tingling or numbness. If it stays, see a doctor or a physiotherapist.",
}
