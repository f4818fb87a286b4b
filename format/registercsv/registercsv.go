// Package registercsv writes the register of a class as CSV (RFC 4180): a lesson a row, a
// student a column.
package registercsv

import (
	"encoding/csv"
	"io"
	"strconv"
	"strings"
	"time"
)

// Lesson is one that is over.
type Lesson struct {
	On      time.Time
	Minutes int
	There   []bool // by student
}

// The words in the cells.
const (
	there = "there"
	away  = "away"
)

// Write writes the lessons under the names. A name that a spreadsheet would take for a formula
// is written as text.
func Write(w io.Writer, names []string, lessons []Lesson) error {
	c := csv.NewWriter(w)
	c.UseCRLF = true
	head := []string{"date", "minutes"}
	for _, name := range names {
		if strings.IndexAny(name, "=+-@\t") == 0 {
			name = "'" + name
		}
		head = append(head, name)
	}
	if err := c.Write(head); err != nil {
		return err
	}
	for _, l := range lessons {
		row := []string{l.On.Format(time.DateOnly), strconv.Itoa(l.Minutes)}
		for _, is := range l.There {
			word := away
			if is {
				word = there
			}
			row = append(row, word)
		}
		if err := c.Write(row); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}
