// Package ref has what rows are referred to by: an id of its own type for each kind of thing, so that two
// cannot be swapped, and the name that a thing keeps for good. It uses nothing.
package ref

// The ids of rows.
type (
	Teacher int64
	Class   int64
	Student int64
	Song    int64
	Ladder  int64
	Pattern int64
	Entry   int64 // of the log
	Drill   int64
	Lesson  int64
	Take    int64
	Import  int64
)

// UID names a thing for good, across accounts and machines.
type UID string

// Kind is a kind of thing that has such a name.
type Kind string

// The kinds. All but entries can be archived; the archive lists them in this order.
const (
	AClass   Kind = "class"
	AStudent Kind = "student"
	ASong    Kind = "song"
	ALadder  Kind = "ladder"
	APattern Kind = "pattern"
	AnEntry  Kind = "entry"
)

// Thing is anything of a teacher's.
type Thing struct {
	Kind Kind
	ID   int64
}

// Named is a row with its name for good.
type Named struct {
	UID UID
	Thing
}
