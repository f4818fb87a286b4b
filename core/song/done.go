package song

import "arplin/core/done"

// What can be done to a song, by id; these are stored.
const (
	barChanged     done.ID = "bar-changed"
	barSplit       done.ID = "bar-split"
	barJoined      done.ID = "bar-joined"
	barInserted    done.ID = "bar-inserted"
	barDeleted     done.ID = "bar-deleted"
	barMarked      done.ID = "bar-marked"
	barEnding      done.ID = "bar-ending"
	sectionTimes   done.ID = "section-times"
	sectionCopied  done.ID = "section-copied"
	sectionRenamed done.ID = "section-renamed"
	sectionDeleted done.ID = "section-deleted"
	formAdded      done.ID = "form-added"
	meterSet       done.ID = "meter-set"
	tempoSet       done.ID = "tempo-set"
	swingOn        done.ID = "swing-on"
	swingOff       done.ID = "swing-off"
	rangeSet       done.ID = "range-set"
	rangeOpen      done.ID = "range-open"
	shapeSet       done.ID = "shape-set"
	shapeEasiest   done.ID = "shape-easiest"
	shapeInBar     done.ID = "shape-in-bar"
	shapeUsual     done.ID = "shape-usual"
	keySet         done.ID = "key-set"
	recoloured     done.ID = "recoloured"
	plain          done.ID = "plain"
	halvedInBars   done.ID = "halved-in-bars"
	halvedOverBars done.ID = "halved-over-bars"
	remetered      done.ID = "remetered"
	patternSet     done.ID = "pattern-set"
	patternOff     done.ID = "pattern-off"
	notesSet       done.ID = "notes-set"
	notesAtEnd     done.ID = "notes-at-end"
	barMeter       done.ID = "bar-meter"
	titled         done.ID = "titled"
	keySaid        done.ID = "key-said"
	keyLeft        done.ID = "key-left"
	melodySet      done.ID = "melody-set"
	melodyGone     done.ID = "melody-gone"
	notePut        done.ID = "note-put"
	noteFree       done.ID = "note-free"
	noteTyped      done.ID = "note-typed"
	sectionMoved   done.ID = "section-moved"
	imported       done.ID = "imported"
	earlier        done.ID = "earlier" // of a time when only words were kept
)

// DoneWords are the words for it.
var DoneWords = done.Words{
	melodySet:      "Wrote the tune of %s",
	melodyGone:     "Took the tune out of %s",
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
