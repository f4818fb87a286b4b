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
	melodySet:      "Wrote the melody of %s",
	melodyGone:     "Removed the melody of %s",
	tagsSet:        "Tagged %s",
	tagsGone:       "Removed tags",
	tuneAdded:      "Began another melody, %s, with a copy",
	tuneTaken:      "Switched to melody %s",
	tuneDropped:    "Removed %s",
	notePut:        "Put %s of bar %s of %s on string %s",
	noteFree:       "%s of bar %s of %s goes to its best place",
	noteTyped:      "Changed the melody in bar %s of %s",
	barChanged:     "Changed bar %s of %s",
	barSplit:       "Split bar %s of %s",
	barJoined:      "Joined bar %s of %s with the next",
	barInserted:    "Added a bar after bar %s of %s",
	barDeleted:     "Deleted bar %s of %s",
	barMarked:      "Marked bar %s of %s",
	barEnding:      "Set the ending of bar %s of %s",
	sectionTimes:   "%s is played %s times",
	sectionCopied:  "Duplicated %s",
	sectionRenamed: "Renamed section %s",
	sectionDeleted: "Deleted %s",
	formAdded:      "Added a %s-bar form",
	meterSet:       "The song is in %s",
	tempoSet:       "Goal %s BPM",
	swingOn:        "Swung",
	swingOff:       "Straight",
	rangeSet:       "Sung from %s to %s",
	rangeOpen:      "Cleared the sung range",
	shapeSet:       "%s on %s is %s",
	rootKept:       "the thumb keeps to the root of %s on %s",
	rootFree:       "the thumb may leave the root of %s on %s",
	shapeEasiest:   "%s on %s has its easiest shape again",
	shapeInBar:     "%s on %s is %s in bar %s of %s",
	shapeUsual:     "%s on %s has its usual shape again in bar %s of %s",
	keySet:         "Key of %s",
	recoloured:     "Triads to sevenths",
	plain:          "All chords to triads",
	halvedInBars:   "One chord a bar",
	halvedOverBars: "One chord every 2 bars",
	remetered:      "The song is in %s now, with a pattern for it",
	patternSet:     "Pattern: %s",
	patternOff:     "Removed the pattern",
	notesSet:       "Changed the note before bar %s of %s",
	notesAtEnd:     "Changed the note at the end",
	barMeter:       "Bar %s of %s is in %s",
	titled:         "Renamed to %s",
	keySaid:        "Key of %s, set by you",
	keyLeft:        "Key from the chords",
	sectionMoved:   "Moved %s",
	imported:       "Used the file’s version",
	earlier:        "An earlier change",
}
