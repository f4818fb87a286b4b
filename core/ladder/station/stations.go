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
	{ChordsOnce, "each chord once", "Strum each chord where it starts and let it ring. This is the groundwork.", "Strum once and listen until the next. Sing the melody over it."},
	{TuneAlone, "the melody alone", "Single notes on the thin strings. Sing along.", "Sing a line, then play it. Go to the next line when you can play this one without looking."},
	{TuneShapes, "shapes with the melody on top", "On each beat with a note, strum the shape with that note on top, slowly. Some chords turn into others.", "First just the shapes, one after another, in silence. Say what each chord becomes. Then strum, and bring out the top note."},
	{BassOnOne, "the melody with bass on 1", "The thumb plays the root where a bar starts. The melody carries on above it.", "Hold each shape for a whole bar. Play the thumb on 1, then only the melody until the next bar line."},
	{PulsingBass, "the melody with a pulsing bass", "The thumb on every beat, on one string. It doesn’t wait for the melody.", "Play the thumb alone through the song first. Then add one note of the melody a bar, then all of them, line by line."},
	{WalkingBass, "the melody over alternating bass", "The thumb alternates between its two strings. Some melody notes come with it, the others in between.", "Play the thumb alone through the song until it runs by itself. Then line by line: first the notes that come with it, then the ones in between."},
	{TuneMarks, "slides and hammered notes", "Now add the slides and hammered notes. Don’t pluck the second note again.", "Practise each mark alone until the second note is as loud as the first. Then play it in its line."},
	{LateFingers, "late fingers", "Where a seventh starts, land on the plain chord with the bass. Add the finger that makes the seventh half a beat later, so you hear it.", "Play the chord and its late finger alone, four times, then in its line. The thumb doesn’t wait for it."},
	{WalkDown, "an ending that walks down", "Before the last chord, the bass walks down the scale to it, one note a beat.", "Play the walking bass alone, slowly, until you know its frets. Add the melody above it, then start from the line before."},
	{Turnaround, "a turnaround", "The last two bars lead back to the start, with a chord change on every beat.", "Strum each chord once, slowly and in time. Add the thumb, then go on into the first bar without a gap."},
}

// drones are the words of the stations in which the thumb has a drone and no bass: on an instrument
// whose outer string is a high one.
var drones = []Words{
	{BassOnOne, "the melody with a drone on 1", "The thumb plays its high string where a bar starts: a drone, not a bass. The melody carries on with it.", "Hold each shape for a whole bar. Play the thumb on 1, then only the melody until the next bar line."},
	{PulsingBass, "the melody with a pulsing drone", "The thumb on every beat, on its high string. It doesn’t wait for the melody.", "Play the thumb alone through the song first. Then add one note of the melody a bar, then all of them, line by line."},
	{WalkingBass, "the melody over an alternating drone", "The thumb alternates between its high string, a drone, and the one beside it. Some melody notes come with it, the others in between.", "Play the thumb alone through the song until it runs by itself. Then line by line: first the notes that come with it, then the ones in between."},
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
