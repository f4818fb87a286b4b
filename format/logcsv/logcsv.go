// Package logcsv writes and reads a log of tempos as CSV (RFC 4180), as spreadsheets have
// it.
package logcsv

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
)

// Row is a try in the log.
type Row struct {
	At      time.Time
	Name    string
	Song    string
	Step    int // from 1; 0 for one that is gone
	Tempo   int
	Clean   bool
	Errors  string // "few" or "many"
	Minutes int    // 0 where nothing is said
	Fault   string // two keys
	Bar     int    // from 1; 0 where nothing is said
	Word    string
	Line    int // in the file, where it was read
}

var head = []string{"date", "name", "song", "step", "bpm", "clean", "slips", "minutes", "fault", "bar", "remark"}

// when is how times are written: local, to the second, as spreadsheets read them.
const when = "2006-01-02 15:04:05"

// Write writes rows under a head. A cell that a spreadsheet would take for a formula is
// written as text.
func Write(w io.Writer, rows []Row) error {
	c := csv.NewWriter(w)
	c.UseCRLF = true
	if err := c.Write(head); err != nil {
		return err
	}
	for _, r := range rows {
		clean := "yes"
		if !r.Clean {
			clean = "no"
		}
		if err := c.Write([]string{r.At.Local().Format(when), safe(r.Name), safe(r.Song), number(r.Step), number(r.Tempo), clean, r.Errors, number(r.Minutes), r.Fault, number(r.Bar), safe(r.Word)}); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

func number(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

// safe marks what a spreadsheet would run. Source: OWASP, "CSV Injection".
func safe(s string) string {
	if s != "" && strings.ContainsRune("=+-@\t\r'", rune(s[0])) {
		return "'" + s
	}
	return s
}

func unsafe(s string) string { return strings.TrimPrefix(strings.TrimSpace(s), "'") }

// MaxRows is how many rows are read at once.
const MaxRows = 20_000

// Read reads rows by the names of their columns, in any order: name and bpm must be
// there, date, song, step and the others can be. Commas, semicolons and tabs part cells.
// An error names the line.
func Read(text string) ([]Row, error) {
	text = strings.TrimPrefix(text, "\uFEFF")
	first, _, _ := strings.Cut(text, "\n")
	r := csv.NewReader(strings.NewReader(text))
	r.Comma = comma(first)
	r.FieldsPerRecord = -1
	r.LazyQuotes = true
	columns, err := r.Read()
	if errors.Is(err, io.EOF) {
		return nil, errors.New("there is nothing in it")
	}
	if err != nil {
		return nil, sentence(err)
	}
	at := map[string]int{}
	for i, name := range columns {
		at[canonical(name)] = i
	}
	for _, must := range []string{"name", "bpm"} {
		if _, ok := at[must]; !ok {
			return nil, fmt.Errorf("the first line names the columns; there is none called %q among %s", must, strings.Join(columns, ", "))
		}
	}
	var rows []Row
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, sentence(err)
		}
		line, _ := r.FieldPos(0)
		cell := func(name string) string {
			i, ok := at[name]
			if !ok || i >= len(cells) {
				return ""
			}
			return unsafe(cells[i])
		}
		if strings.TrimSpace(strings.Join(cells, "")) == "" {
			continue
		}
		row, err := readRow(cell)
		if err != nil {
			return nil, fmt.Errorf("line %d: %w", line, err)
		}
		row.Line = line
		if rows = append(rows, row); len(rows) > MaxRows {
			return nil, fmt.Errorf("it has more than %d lines; read it in parts", MaxRows)
		}
	}
	if len(rows) == 0 {
		return nil, errors.New("there is no line under the head")
	}
	return rows, nil
}

// comma is what parts the cells of the first line.
func comma(first string) rune {
	best, most := ',', 0
	for _, c := range []rune{',', ';', '\t'} {
		if n := strings.Count(first, string(c)); n > most {
			best, most = c, n
		}
	}
	return best
}

// canonical is a column by the name that Write gives it.
func canonical(name string) string {
	name = strings.ToLower(strings.TrimSpace(name))
	switch name {
	case "tempo", "beats a minute":
		return "bpm"
	case "day", "when", "at":
		return "date"
	case "student", "who":
		return "name"
	case "errors":
		return "slips"
	case "word", "note":
		return "remark"
	}
	return name
}

func readRow(cell func(string) string) (r Row, err error) {
	r = Row{Name: cell("name"), Song: cell("song"), Errors: strings.ToLower(cell("slips")), Fault: strings.ToLower(cell("fault")), Word: cell("remark"), Clean: true}
	for _, field := range []struct {
		name string
		into *int
	}{{"step", &r.Step}, {"bpm", &r.Tempo}, {"minutes", &r.Minutes}, {"bar", &r.Bar}} {
		text := cell(field.name)
		if text == "" && field.name != "bpm" {
			continue
		}
		if *field.into, err = strconv.Atoi(text); err != nil || *field.into < 0 {
			return r, fmt.Errorf("%q is no number for %s", text, field.name)
		}
	}
	switch strings.ToLower(cell("clean")) {
	case "", "yes", "y", "true", "1", "clean", "ok":
	case "no", "n", "false", "0", "x":
		r.Clean = false
	default:
		return r, fmt.Errorf("clean is yes or no, not %q", cell("clean"))
	}
	if text := cell("date"); text != "" {
		if r.At, err = readTime(text); err != nil {
			return r, err
		}
	}
	return r, nil
}

// readTime reads a day, with a time or without. Days that could be read in two ways are
// not guessed.
func readTime(text string) (time.Time, error) {
	for _, layout := range []string{when, "2006-01-02 15:04", time.RFC3339, time.DateOnly, "2 Jan 2006", "2 January 2006", "02.01.2006"} {
		if at, err := time.ParseInLocation(layout, text, time.Local); err == nil {
			return at, nil
		}
	}
	return time.Time{}, fmt.Errorf("%q is no day; write it as 2026-11-24", text)
}

// sentence is a fault of the form itself, with its line.
func sentence(err error) error {
	var parse *csv.ParseError
	if errors.As(err, &parse) {
		return fmt.Errorf("line %d cannot be read: %w", parse.Line, parse.Err)
	}
	return err
}

// String writes rows to a text.
func String(rows []Row) (string, error) {
	var b bytes.Buffer
	err := Write(&b, rows)
	return b.String(), err
}
