package store

import "strings"

// fields are the columns of a table that are stored as they are, a row each: by these they are
// read, added and changed. (A row of pointers serves all three, which sqlx and sqlc do not.)
type fields[T any] []field[T]

type field[T any] struct {
	column string
	at     func(*T) any // a pointer to it
}

// columns are the names of all, for a SELECT or an INSERT.
func (f fields[T]) columns() string { return f.join(func(c string) string { return c }) }

// joined are those of a row that a LEFT JOIN may not find, by the name of its table: 0 for none.
func (f fields[T]) joined(table string) string {
	return f.join(func(c string) string { return "COALESCE(" + table + "." + c + ", 0)" })
}

// marks are as many question marks.
func (f fields[T]) marks() string { return f.join(func(string) string { return "?" }) }

// set is what an UPDATE sets.
func (f fields[T]) set() string { return f.join(func(c string) string { return c + " = ?" }) }

func (f fields[T]) join(as func(string) string) string {
	var list []string
	for _, x := range f {
		list = append(list, as(x.column))
	}
	return strings.Join(list, ", ")
}

// of is where each stands in a value: to be scanned into, or stored.
func (f fields[T]) of(v *T) []any {
	list := make([]any, len(f))
	for i, x := range f {
		list[i] = x.at(v)
	}
	return list
}

// but leaves some columns out.
func (f fields[T]) but(columns ...string) (kept fields[T]) {
	for _, x := range f {
		out := false
		for _, c := range columns {
			out = out || c == x.column
		}
		if !out {
			kept = append(kept, x)
		}
	}
	return kept
}
