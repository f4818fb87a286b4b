package practice

// Care is shown where practice is planned and on every sheet. Common practice;
// no medical advice.
var Care = []string{
	"Warm up first: a few slow, soft minutes.",
	"Sit and hold the instrument without tension; shoulders low, wrist easy.",
	"Short sets with breaks. Raise the daily time slowly.",
	"Stop at pain, tingling or numbness. If it stays, see a doctor or a physiotherapist.",
}
