package edit

import (
	"arplin/core/say"
)

// What can be done to a song, by id; these are stored.
const (
	barChanged     say.ID = "bar-changed"
	barSplit       say.ID = "bar-split"
	barJoined      say.ID = "bar-joined"
	barInserted    say.ID = "bar-inserted"
	barDeleted     say.ID = "bar-deleted"
	barMarked      say.ID = "bar-marked"
	barEnding      say.ID = "bar-ending"
	sectionTimes   say.ID = "section-times"
	sectionCopied  say.ID = "section-copied"
	sectionRenamed say.ID = "section-renamed"
	sectionDeleted say.ID = "section-deleted"
	formAdded      say.ID = "form-added"
	meterSet       say.ID = "meter-set"
	tempoSet       say.ID = "tempo-set"
	swingOn        say.ID = "swing-on"
	swingOff       say.ID = "swing-off"
	rangeSet       say.ID = "range-set"
	rangeOpen      say.ID = "range-open"
	shapeSet       say.ID = "shape-set"
	rootKept       say.ID = "root-kept"
	rootFree       say.ID = "root-free"
	shapeEasiest   say.ID = "shape-easiest"
	shapeInBar     say.ID = "shape-in-bar"
	shapeUsual     say.ID = "shape-usual"
	keySet         say.ID = "key-set"
	recoloured     say.ID = "recoloured"
	plain          say.ID = "plain"
	halvedInBars   say.ID = "halved-in-bars"
	halvedOverBars say.ID = "halved-over-bars"
	remetered      say.ID = "remetered"
	patternSet     say.ID = "pattern-set"
	patternOff     say.ID = "pattern-off"
	notesSet       say.ID = "notes-set"
	notesAtEnd     say.ID = "notes-at-end"
	barMeter       say.ID = "bar-meter"
	titled         say.ID = "titled"
	keySaid        say.ID = "key-said"
	keyLeft        say.ID = "key-left"
	melodySet      say.ID = "melody-set"
	melodyGone     say.ID = "melody-gone"
	tagsSet        say.ID = "tags-set"
	tagsGone       say.ID = "tags-gone"
	tuneAdded      say.ID = "tune-added"
	tuneTaken      say.ID = "tune-taken"
	tuneDropped    say.ID = "tune-dropped"
	notePut        say.ID = "note-put"
	noteFree       say.ID = "note-free"
	noteTyped      say.ID = "note-typed"
	sectionMoved   say.ID = "section-moved"
	imported       say.ID = "imported"
	earlier        say.ID = "earlier" // of a time when only words were kept
)

// DoneWords are the words for it.
var DoneWords = say.Words{
	melodySet:      "Wrote the tune of %s",
	melodyGone:     "Took the tune out of %s",
	tagsSet:        "Tagged it %s",
	tagsGone:       "Took its tags off",
	tuneAdded:      "Began another tune, %s, with a copy",
	tuneTaken:      "Now %s is in the bars",
	tuneDropped:    "Removed %s",
	notePut:        "Put %s of bar %s of %s on string %s",
	noteFree:       "%s of bar %s of %s goes where it lies best",
	noteTyped:      "Changed the tune in bar %s of %s",
	barChanged:     "Changed bar %s of %s",
	barSplit:       "Split bar %s of %s",
	barJoined:      "Joined bar %s of %s with the next",
	barInserted:    "Put a bar after bar %s of %s",
	barDeleted:     "Took out bar %s of %s",
	barMarked:      "Marked bar %s of %s",
	barEnding:      "Set the ending of bar %s of %s",
	sectionTimes:   "%s is played %s times",
	sectionCopied:  "Duplicated %s",
	sectionRenamed: "Named the section %s",
	sectionDeleted: "Took out %s",
	formAdded:      "Added a %s-bar form",
	meterSet:       "The song is in %s",
	tempoSet:       "The goal is %s BPM",
	swingOn:        "The song swings",
	swingOff:       "The song is straight",
	rangeSet:       "Sung from %s to %s",
	rangeOpen:      "The sung range is open",
	shapeSet:       "%s on %s is %s",
	rootKept:       "the thumb keeps to the root of %s on %s",
	rootFree:       "the thumb may leave the root of %s on %s",
	shapeEasiest:   "%s on %s has its easiest shape again",
	shapeInBar:     "%s on %s is %s in bar %s of %s",
	shapeUsual:     "%s on %s has its usual shape again in bar %s of %s",
	keySet:         "The song sounds in %s",
	recoloured:     "Every triad has the seventh of the key",
	plain:          "Every chord is its triad",
	halvedInBars:   "Every bar keeps one chord",
	halvedOverBars: "Every two bars keep one chord",
	remetered:      "The song is in %s now, with a figure for it",
	patternSet:     "Put %s on it",
	patternOff:     "No pattern is on it any more",
	notesSet:       "Changed the note before bar %s of %s",
	notesAtEnd:     "Changed the note at the end",
	barMeter:       "Bar %s of %s is in %s",
	titled:         "Called the song %s",
	keySaid:        "The song is in %s, by you",
	keyLeft:        "The key is found from the chords again",
	sectionMoved:   "Moved %s",
	imported:       "Took the version of a file",
	earlier:        "An earlier change",
}
