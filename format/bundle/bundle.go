// Package bundle is what a teacher takes along in one file: a zip with bundle.json, which keeps to
// schema.json, JSON Schema 2020-12, and a copy of that schema. Things are named by uids that hold
// across accounts and machines; an uid is the only way in which one refers to another.
package bundle

import (
	"archive/zip"
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"sync"
	"time"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/text/language"
	"golang.org/x/text/message"
)

// Format is the number of the form.
const Format = 1

// UID names a thing for good.
type UID string

// Bundle is what is in the file.
type Bundle struct {
	Arplin       int           `json:"arplin"` // the form
	Made         time.Time     `json:"made"`
	Songs        []Song        `json:"songs,omitempty"`
	Patterns     []Pattern     `json:"patterns,omitempty"`
	Classes      []Class       `json:"classes,omitempty"`
	Students     []Student     `json:"students,omitempty"`
	Ladders      []Ladder      `json:"ladders,omitempty"`
	Log          []Entry       `json:"log,omitempty"`
	Terms        []Term        `json:"terms,omitempty"`
	Arrangements []Arrangement `json:"arrangements,omitempty"`
}

// Song is a song as package core/song writes it.
type Song struct {
	UID  UID             `json:"uid"`
	Song json.RawMessage `json:"song"`
}

// Pattern is a teacher's own pattern in the stroke notation.
type Pattern struct {
	UID      UID    `json:"uid"`
	Name     string `json:"name"`
	Notation string `json:"notation"`
}

// Class is a class with its schools.
type Class struct {
	UID        UID    `json:"uid"`
	Name       string `json:"name"`
	Minutes    int    `json:"minutes"`
	Fingers    string `json:"fingers"`
	LowFifth   bool   `json:"low_fifth,omitempty"`
	ThickOnTop bool   `json:"thick_on_top,omitempty"`
	Lean       bool   `json:"lean,omitempty"`
	Anchor     bool   `json:"anchor,omitempty"`
	LongNails  bool   `json:"long_nails,omitempty"`
	Wrist      bool   `json:"wrist,omitempty"`
	Pick       bool   `json:"pick,omitempty"`
	Roll       string `json:"roll,omitempty"`
	SingLow    string `json:"sing_low,omitempty"`
	SingHigh   string `json:"sing_high,omitempty"`
	Weights    string `json:"weights,omitempty"`
}

// Student is a student of a class: a first name or a nickname.
type Student struct {
	UID        UID    `json:"uid"`
	Class      UID    `json:"class"`
	Name       string `json:"name"`
	Instrument string `json:"instrument"`
	LeftHanded bool   `json:"left_handed,omitempty"`
	Fingers    string `json:"fingers,omitempty"`
	DayMinutes int    `json:"day_minutes,omitempty"`
	Shapes     string `json:"shapes,omitempty"`
	Capo       int    `json:"capo,omitempty"`
	Cannot     string `json:"cannot,omitempty"`
	Note       string `json:"note,omitempty"`
}

// Ladder is a ladder as package core/ladder writes it, with where everybody stands.
type Ladder struct {
	UID         UID             `json:"uid"`
	Class       UID             `json:"class"`
	Song        UID             `json:"song"`
	Sections    []int           `json:"sections,omitempty"`
	Instrument  string          `json:"instrument,omitempty"`
	PatternName string          `json:"pattern_name"`
	Target      string          `json:"target"`
	Progress    string          `json:"progress"`
	Ladder      json.RawMessage `json:"ladder"`
	Places      map[UID]int     `json:"places,omitempty"` // students to steps
}

// Entry is a try in the log, with its step as it was played.
type Entry struct {
	UID     UID             `json:"uid"`
	Student UID             `json:"student"`
	Ladder  UID             `json:"ladder"`
	Step    json.RawMessage `json:"step"`
	Tempo   int             `json:"tempo"`
	Failed  bool            `json:"failed,omitempty"`
	Errors  string          `json:"errors,omitempty"`
	Minutes int             `json:"minutes,omitempty"`
	Fault   string          `json:"fault,omitempty"`
	Word    string          `json:"word,omitempty"`
	Bar     int             `json:"bar,omitempty"`
	At      time.Time       `json:"at"`
}

// Term is the weeks of a class up to a concert.
type Term struct {
	Class   UID    `json:"class"`
	Ladder  UID    `json:"ladder"`
	Begins  string `json:"begins"` // dates
	Concert string `json:"concert"`
	Name    string `json:"name"`
}

// Arrangement is who plays what on a ladder's song.
type Arrangement struct {
	Ladder UID             `json:"ladder"`
	Groups [][]UID         `json:"groups"`
	Passes json.RawMessage `json:"passes"`
	Parts  [][]Part        `json:"parts"`
}

// Part is what a group plays in a pass.
type Part struct {
	Kind string `json:"kind"`
	Step int    `json:"step,omitempty"`
	Of   UID    `json:"of,omitempty"` // the ladder of another song
}

// Twice is a name that two things of the file have.
func (b Bundle) Twice() (uid UID, twice bool) {
	seen := map[UID]bool{}
	note := func(u UID) {
		if seen[u] && !twice {
			uid, twice = u, true
		}
		seen[u] = true
	}
	for _, x := range b.Songs {
		note(x.UID)
	}
	for _, x := range b.Patterns {
		note(x.UID)
	}
	for _, x := range b.Classes {
		note(x.UID)
	}
	for _, x := range b.Students {
		note(x.UID)
	}
	for _, x := range b.Ladders {
		note(x.UID)
	}
	for _, x := range b.Log {
		note(x.UID)
	}
	return uid, twice
}

// Schema is the published schema of bundle.json.
//
//go:embed schema.json
var Schema []byte

// The names within the zip.
const (
	bundleName = "bundle.json"
	schemaName = "schema.json"
)

// MaxBytes bounds what is read, unpacked.
const MaxBytes = 64 << 20

// Write writes the zip.
func Write(b Bundle) ([]byte, error) {
	b.Arplin = Format
	body, err := json.MarshalIndent(b, "", " ")
	if err != nil {
		return nil, fmt.Errorf("bundle: %w", err)
	}
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, file := range []struct { // in this order, so that the same bundle is the same file
		name string
		data []byte
	}{{bundleName, body}, {schemaName, Schema}} {
		w, err := z.Create(file.name)
		if err == nil {
			_, err = w.Write(file.data)
		}
		if err != nil {
			return nil, fmt.Errorf("bundle: %w", err)
		}
	}
	if err := z.Close(); err != nil {
		return nil, fmt.Errorf("bundle: %w", err)
	}
	return out.Bytes(), nil
}

// Read reads a zip, or bundle.json by itself, and holds it against the schema.
func Read(data []byte) (b Bundle, err error) {
	body := data
	if bytes.HasPrefix(data, []byte("PK")) {
		if body, err = unpack(data); err != nil {
			return b, err
		}
	}
	body = bytes.TrimPrefix(body, []byte("\xef\xbb\xbf")) // as some editors save it
	if len(body) > MaxBytes {
		return b, fmt.Errorf("bundle: it has more than %d MB", MaxBytes>>20)
	}
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(body))
	if err != nil {
		return b, fmt.Errorf("bundle: this is no bundle of Arplin: %w", err)
	}
	if head, ok := value.(map[string]any); !ok || head["arplin"] == nil {
		return b, errors.New("bundle: this is no bundle of Arplin")
	} else if n, isNumber := head["arplin"].(json.Number); isNumber {
		if form, err := n.Int64(); err == nil && form > Format {
			return b, fmt.Errorf("bundle: it is in form %d, and this program reads up to %d", form, Format)
		}
	}
	schema, err := compiled()
	if err != nil {
		return b, err
	}
	if err := schema.Validate(value); err != nil {
		return b, placed(err)
	}
	if err := json.Unmarshal(body, &b); err != nil {
		return b, fmt.Errorf("bundle: %w", err)
	}
	return b, nil
}

func unpack(data []byte) ([]byte, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, errors.New("bundle: the file is cut or broken")
	}
	f, err := z.Open(bundleName)
	if err != nil {
		return nil, errors.New("bundle: this is no bundle of Arplin: there is no bundle.json in it")
	}
	defer f.Close()
	body, err := io.ReadAll(io.LimitReader(f, MaxBytes+1))
	if err != nil {
		return nil, errors.New("bundle: the file is cut or broken")
	}
	return body, nil
}

var compiled = sync.OnceValues(func() (*jsonschema.Schema, error) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	if err != nil {
		return nil, fmt.Errorf("bundle: %w", err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource(schemaName, doc); err != nil {
		return nil, fmt.Errorf("bundle: %w", err)
	}
	return c.Compile(schemaName)
})

// placed says the first thing that does not keep to the schema, with its place.
func placed(err error) error {
	var invalid *jsonschema.ValidationError
	if !errors.As(err, &invalid) {
		return fmt.Errorf("bundle: %w", err)
	}
	for len(invalid.Causes) > 0 {
		invalid = invalid.Causes[0]
	}
	return fmt.Errorf("bundle: /%s: %s", strings.Join(invalid.InstanceLocation, "/"), invalid.ErrorKind.LocalizedString(message.NewPrinter(language.English)))
}
