package station

// ID names a place to stop at on the way from a song's chords to its tune over a walking
// bass. What is played at it is found by core/arrange.
type ID string

// The stations.
const (
	ChordsOnce  ID = "chords"
	TuneAlone   ID = "tune"
	TuneShapes  ID = "shapes"
	BassOnOne   ID = "bass-on-one"
	PulsingBass ID = "pulse"
	WalkingBass ID = "alternating"
	TuneMarks   ID = "marks"
	LateFingers ID = "late"
	WalkDown    ID = "walk-down"
	Turnaround  ID = "turnaround"
)

// Words are what a station is called, a sentence, and how it is practised. Source:
// common practice.
type Words struct {
	ID              ID
	Name, Says, How string
}

// All is the table of them, in the order in which they are learned.
var All = []Words{
	{ChordsOnce, "the chords, once each", "Strum each chord where it begins, and let it ring: this is the ground.", "One strum, and listen until the next. Sing the tune over it."},
	{TuneAlone, "the tune alone", "Single notes on the thin strings. Sing along.", "Sing a line, then play it. The next line when this one goes without looking."},
	{TuneShapes, "shapes that hold the tune", "On each beat with a note strum the shape that has it on top, slowly. Some chords become others by it.", "Only the shapes first, one after another, in silence; say what each chord becomes. Then strum, and lean on the top note."},
	{BassOnOne, "the tune with the bass on one", "The thumb strikes the root where a bar begins; the tune goes on above it.", "Hold each shape a whole bar. The thumb on one, then only the tune until the next bar line."},
	{PulsingBass, "the tune with a pulsing bass", "The thumb on every beat, on one string: it does not wait for the tune.", "The thumb alone through the song first. Then one note of the tune a bar; then all of them, line by line."},
	{WalkingBass, "the tune over the alternating bass", "The thumb goes between its two strings. Notes that fall with it are joined to it; the others fall between.", "The thumb alone through the song; it goes by itself before a note is put on it. Then line by line: first the notes that fall with it, then those between."},
	{TuneMarks, "slides and hammered notes", "The marks of the tune at last: a slide and a hammered note are not struck again.", "Each mark alone, until the second note is as loud as the first. Then in its line."},
	{LateFingers, "late fingers", "Where a seventh begins, come down as the plain chord on the bass; the finger that makes the seventh comes half a beat later, and is heard.", "The chord and its late finger alone, four times; then in its line. The thumb does not wait for it."},
	{WalkDown, "an ending that walks down", "Before the last chord the bass walks down the scale to it, a step a beat.", "The walking bass alone, slowly, until the fingers know its frets; then with what is above it; then from the line before."},
	{Turnaround, "a turnaround", "The last two bars lead back to the beginning: the chords change on every beat.", "Each chord strummed once, in time and slowly; then with the thumb; then on into the first bar without a gap."},
}

// drones are the words of the stations in which the thumb has a drone and no bass: on an instrument
// whose outer string is a high one.
var drones = []Words{
	{BassOnOne, "the tune with a drone on one", "The thumb strikes its high string where a bar begins: a drone, no bass. The tune goes on with it.", "Hold each shape a whole bar. The thumb on one, then only the tune until the next bar line."},
	{PulsingBass, "the tune with a pulsing drone", "The thumb on every beat, on its high string: it does not wait for the tune.", "The thumb alone through the song first. Then one note of the tune a bar; then all of them, line by line."},
	{WalkingBass, "the tune over an alternating drone", "The thumb goes between its high string, which drones, and the one beside it. Notes that fall with it are joined to it; the others fall between.", "The thumb alone through the song; it goes by itself before a note is put on it. Then line by line: first the notes that fall with it, then those between."},
}

// WordsOn are the words of a station on an instrument whose thumb drones, or does not.
func WordsOn(s ID, drone bool) Words {
	for _, w := range drones {
		if drone && w.ID == s {
			return w
		}
	}
	return WordsOf(s)
}

// WordsOf are the words of a station.
func WordsOf(s ID) Words {
	for _, w := range All {
		if w.ID == s {
			return w
		}
	}
	return Words{ID: s, Name: "a station"}
}
