package say

import (
	"encoding/json"
	"fmt"
	"strings"
)

// ID names a kind of line for good.
type ID string

// Plain is a line whose arguments follow one another and are all that is said: somebody's own
// words, or a sentence that was stored before there were lines.
const Plain ID = "as-said"

// Line is one thing that is said. The zero value says nothing.
type Line struct {
	ID   ID    `json:"id"`
	Args []Arg `json:"args,omitempty"`
}

// IsZero reports a line that says nothing.
func (l Line) IsZero() bool { return l.ID == "" }

// Arg is what a line is about: words or a number, somebody or a song by id, another line, or
// several of these, which are listed.
type Arg struct {
	Text   string
	Person int64
	Song   int64
	Line   *Line
	List   []Arg
}

// Person is somebody; the name is put in when the line is said.
func Person(id int64) Arg { return Arg{Person: id} }

// Song is a song; its title is put in when the line is said.
func Song(id int64) Arg { return Arg{Song: id} }

// Several are things in a row, "a, b and c".
func Several(list []Arg) Arg { return Arg{List: list} }

// Of is a line with its arguments: arguments, lines, and what else prints as a word.
func Of(id ID, args ...any) Line {
	l := Line{ID: id}
	for _, a := range args {
		switch a := a.(type) {
		case Arg:
			l.Args = append(l.Args, a)
		case Line:
			l.Args = append(l.Args, Arg{Line: &a})
		default:
			l.Args = append(l.Args, Arg{Text: fmt.Sprint(a)})
		}
	}
	return l
}

// Words is a table of sentences by id, each with %s for the arguments.
type Words map[ID]string

// With is a table with the words of others as well.
func (w Words) With(others ...Words) Words {
	all := Words{}
	for _, table := range append(others, w) {
		for id, says := range table {
			all[id] = says
		}
	}
	return all
}

// Names puts names in where a line has an id.
type Names struct{ Person, Song func(id int64) string }

// Say looks a line up. One that the table does not know, from a later program, has a clause all
// the same.
func (w Words) Say(l Line) string { return w.SayTo(l, Names{}) }

// SayTo is Say with names.
func (w Words) SayTo(l Line, n Names) string {
	args := make([]any, len(l.Args))
	for i, a := range l.Args {
		args[i] = w.arg(a, n)
	}
	if l.ID == Plain {
		return concat(args)
	}
	if l.IsZero() {
		return ""
	}
	format, ok := w[l.ID]
	if !ok {
		return "A change"
	}
	return fmt.Sprintf(format, args...)
}

func concat(args []any) string {
	var out strings.Builder
	for _, a := range args {
		fmt.Fprint(&out, a)
	}
	return out.String()
}

func (w Words) arg(a Arg, n Names) string {
	switch {
	case a.Line != nil:
		return w.SayTo(*a.Line, n)
	case a.Person != 0 && n.Person != nil:
		return n.Person(a.Person)
	case a.Person != 0:
		return "someone"
	case a.Song != 0 && n.Song != nil:
		return n.Song(a.Song)
	case a.Song != 0:
		return "a song"
	case a.List != nil:
		var list []string
		for _, x := range a.List {
			list = append(list, w.arg(x, n))
		}
		return And(list)
	}
	return a.Text
}

// String is the line as it is stored: its id with its arguments, as JSON; empty for none.
func (l Line) String() string {
	if l.IsZero() {
		return ""
	}
	text, err := json.Marshal(l)
	if err != nil {
		return "" // it has nothing that cannot be written
	}
	return string(text)
}

// Parse is the inverse of String. A text that is no line, as they were stored once, is said as it
// stands.
func Parse(text string) Line {
	var l Line
	if text == "" || strings.HasPrefix(text, "{") && json.Unmarshal([]byte(text), &l) == nil && l.ID != "" {
		return l
	}
	return Of(Plain, text)
}

// argRow is how an argument is stored that is not words alone.
type argRow struct {
	Person int64 `json:"person,omitempty"`
	Song   int64 `json:"song,omitempty"`
	Line   *Line `json:"line,omitempty"`
	List   []Arg `json:"list,omitempty"`
}

// MarshalJSON writes words as a string, and all else by name.
func (a Arg) MarshalJSON() ([]byte, error) {
	if row := (argRow{a.Person, a.Song, a.Line, a.List}); row.Person != 0 || row.Song != 0 || row.Line != nil || row.List != nil {
		return json.Marshal(row)
	}
	return json.Marshal(a.Text)
}

// UnmarshalJSON is the inverse of MarshalJSON.
func (a *Arg) UnmarshalJSON(data []byte) error {
	if strings.HasPrefix(string(data), `"`) {
		return json.Unmarshal(data, &a.Text)
	}
	var row argRow
	if err := json.Unmarshal(data, &row); err != nil {
		return err
	}
	*a = Arg{Person: row.Person, Song: row.Song, Line: row.Line, List: row.List}
	return nil
}

// UnmarshalJSON reads a line, and the sentences that were stored before there were lines.
func (l *Line) UnmarshalJSON(data []byte) error {
	if strings.HasPrefix(string(data), `"`) {
		var text string
		if err := json.Unmarshal(data, &text); err != nil {
			return err
		}
		*l = Line{}
		if text != "" {
			*l = Of(Plain, text)
		}
		return nil
	}
	type bare Line
	return json.Unmarshal(data, (*bare)(l))
}
