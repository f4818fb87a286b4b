package done

import "fmt"

// ID names a kind of change for good.
type ID string

// Done is one change that was made.
type Done struct {
	ID   ID       `json:"id"`
	Args []string `json:"args,omitempty"`
}

// Of is a change with its arguments.
func Of(id ID, args ...any) Done {
	d := Done{ID: id}
	for _, a := range args {
		d.Args = append(d.Args, fmt.Sprint(a))
	}
	return d
}

// Words is a table of sentences by id, each a clause with %s for the arguments.
type Words map[ID]string

// Say looks a change up. One that the table does not know, from a later
// program, has a clause all the same.
func (w Words) Say(d Done) string {
	format, ok := w[d.ID]
	if !ok {
		return "A change"
	}
	args := make([]any, len(d.Args))
	for i, a := range d.Args {
		args[i] = a
	}
	return fmt.Sprintf(format, args...)
}
