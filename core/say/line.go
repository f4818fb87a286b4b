package say

import "fmt"

// ID names a kind of line for good.
type ID string

// Line is one thing that is said.
type Line struct {
	ID   ID       `json:"id"`
	Args []string `json:"args,omitempty"`
}

// Of is a line with its arguments.
func Of(id ID, args ...any) Line {
	l := Line{ID: id}
	for _, a := range args {
		l.Args = append(l.Args, fmt.Sprint(a))
	}
	return l
}

// Words is a table of sentences by id, each a clause with %s for the arguments.
type Words map[ID]string

// Say looks a line up. One that the table does not know, from a later program, has a clause all
// the same.
func (w Words) Say(l Line) string {
	format, ok := w[l.ID]
	if !ok {
		return "A change"
	}
	args := make([]any, len(l.Args))
	for i, a := range l.Args {
		args[i] = a
	}
	return fmt.Sprintf(format, args...)
}
