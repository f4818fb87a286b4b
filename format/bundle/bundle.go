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
	Songs        []Song        `json:"songs,omitempty" jsonschema:"maxItems=5000"`
	Patterns     []Pattern     `json:"patterns,omitempty" jsonschema:"maxItems=5000"`
	Classes      []Class       `json:"classes,omitempty" jsonschema:"maxItems=500"`
	Students     []Student     `json:"students,omitempty" jsonschema:"maxItems=5000"`
	Ladders      []Ladder      `json:"ladders,omitempty" jsonschema:"maxItems=5000"`
	Log          []Entry       `json:"log,omitempty" jsonschema:"maxItems=500000"`
	Home         []HomeEntry   `json:"home,omitempty" jsonschema:"maxItems=500000"`
	Takes        []Take        `json:"takes,omitempty" jsonschema:"maxItems=40"`
	Terms        []Term        `json:"terms,omitempty" jsonschema:"maxItems=500"`
	Arrangements []Arrangement `json:"arrangements,omitempty" jsonschema:"maxItems=5000"`
}

// Song is a song as package core/song writes it.
type Song struct {
	UID  UID             `json:"uid"`
	Song json.RawMessage `json:"song"`
}

// Pattern is a teacher's own pattern in the stroke notation.
type Pattern struct {
	UID      UID    `json:"uid"`
	Name     string `json:"name" jsonschema:"minLength=1,maxLength=120"`
	Notation string `json:"notation" jsonschema:"minLength=1,maxLength=8000" jsonschema_description:"The stroke notation: 4/4: p . p' ."`
}

// Class is a class with its schools.
type Class struct {
	UID        UID    `json:"uid"`
	Name       string `json:"name" jsonschema:"minLength=1,maxLength=80"`
	Minutes    int    `json:"minutes" jsonschema:"minimum=1,maximum=600"`
	Fingers    string `json:"fingers" jsonschema:"enum=moving,enum=fixed"`
	LowFifth   bool   `json:"low_fifth,omitempty"`
	ThickOnTop bool   `json:"thick_on_top,omitempty"`
	Lean       bool   `json:"lean,omitempty"`
	Anchor     bool   `json:"anchor,omitempty"`
	LongNails  bool   `json:"long_nails,omitempty"`
	Wrist      bool   `json:"wrist,omitempty"`
	Pick       bool   `json:"pick,omitempty"`
	Roll       string `json:"roll,omitempty" jsonschema:"maxLength=20"`
	Grows      string `json:"grows,omitempty" jsonschema:"maxLength=40"`
	StepSize   string `json:"step_size,omitempty" jsonschema:"maxLength=20"`
	ChordsCome string `json:"chords_come,omitempty" jsonschema:"maxLength=20"`
	SingLow    string `json:"sing_low,omitempty" jsonschema:"maxLength=5"`
	SingHigh   string `json:"sing_high,omitempty" jsonschema:"maxLength=5"`
	Weights    string `json:"weights,omitempty" jsonschema:"maxLength=2000"`
	Series     string `json:"series,omitempty" jsonschema:"maxLength=4000"`
}

// Student is a student of a class: a first name or a nickname.
type Student struct {
	UID        UID    `json:"uid"`
	Class      UID    `json:"class"`
	Name       string `json:"name" jsonschema:"minLength=1,maxLength=40" jsonschema_description:"A first name or a nickname, nothing more."`
	Instrument string `json:"instrument" jsonschema:"minLength=1,maxLength=80"`
	LeftHanded bool   `json:"left_handed,omitempty"`
	Fingers    string `json:"fingers,omitempty" jsonschema:"enum=,enum=moving,enum=fixed"`
	DayMinutes int    `json:"day_minutes,omitempty" jsonschema:"minimum=0,maximum=600"`
	Shapes     string `json:"shapes,omitempty" jsonschema:"maxLength=2000"`
	Capo       int    `json:"capo,omitempty" jsonschema:"minimum=0,maximum=12"`
	Cannot     string `json:"cannot,omitempty" jsonschema:"maxLength=80"`
	Note       string `json:"note,omitempty" jsonschema:"maxLength=4000"`
}

// Ladder is a ladder as package core/ladder writes it, with where everyone is.
type Ladder struct {
	UID         UID             `json:"uid"`
	Class       UID             `json:"class"`
	Song        UID             `json:"song"`
	Sections    []int           `json:"sections,omitempty"`
	Instrument  string          `json:"instrument,omitempty" jsonschema:"maxLength=80"`
	PatternName string          `json:"pattern_name" jsonschema:"maxLength=120"`
	Target      string          `json:"target" jsonschema:"minLength=1,maxLength=8000"`
	Progress    string          `json:"progress" jsonschema:"enum=now,enum=aside,enum=finished"`
	Ladder      json.RawMessage `json:"ladder"`
	Places      map[UID]int     `json:"places,omitempty"` // students to steps
}

// Entry is a try in the log, with its step as it was played.
type Entry struct {
	UID     UID             `json:"uid"`
	Student UID             `json:"student"`
	Ladder  UID             `json:"ladder"`
	Step    json.RawMessage `json:"step"`
	Tempo   int             `json:"tempo" jsonschema:"minimum=1,maximum=400"`
	Failed  bool            `json:"failed,omitempty"`
	Errors  string          `json:"errors,omitempty" jsonschema:"maxLength=8"`
	Minutes int             `json:"minutes,omitempty" jsonschema:"minimum=0,maximum=600"`
	Fault   string          `json:"fault,omitempty" jsonschema:"maxLength=80"`
	Word    string          `json:"word,omitempty" jsonschema:"maxLength=80"`
	Taken   bool            `json:"taken,omitempty"` // Listen judged it
	Bar     int             `json:"bar,omitempty" jsonschema:"minimum=0"`
	At      time.Time       `json:"at"`
}

// HomeEntry is what a student played at home and wrote down.
type HomeEntry struct {
	Student  UID       `json:"student"`
	Ladder   UID       `json:"ladder,omitempty"`
	Step     int       `json:"step,omitempty" jsonschema:"minimum=0"`
	Card     string    `json:"card,omitempty" jsonschema:"maxLength=12"`
	Went     string    `json:"went,omitempty" jsonschema:"enum=,enum=done,enum=again,enum=hard"`
	Tempo    int       `json:"tempo,omitempty" jsonschema:"minimum=0,maximum=400"`
	Minutes  int       `json:"minutes,omitempty" jsonschema:"minimum=0,maximum=1440"`
	Even     int       `json:"even,omitempty" jsonschema:"minimum=0"` // milliseconds of the tap test
	Word     string    `json:"word,omitempty" jsonschema:"maxLength=12"`
	ClientID string    `json:"id" jsonschema:"minLength=8,maxLength=64"` // of the phone
	At       time.Time `json:"at"`
	Came     time.Time `json:"came"`
}

// Take is a recording of a student that was kept.
type Take struct {
	UID     UID       `json:"uid"`
	Student UID       `json:"student"`
	Ladder  UID       `json:"ladder,omitempty"`
	Step    int       `json:"step,omitempty" jsonschema:"minimum=0"`
	Tempo   int       `json:"tempo" jsonschema:"minimum=1,maximum=400"`
	Seconds int       `json:"seconds" jsonschema:"minimum=0,maximum=600"`
	Says    string    `json:"says,omitempty" jsonschema:"maxLength=600" jsonschema_description:"What was heard in it."`
	Sound   []byte    `json:"sound" jsonschema_description:"FLAC, in base64."`
	Home    bool      `json:"home,omitempty" jsonschema_description:"Sent from the student's phone."`
	At      time.Time `json:"at"`
}

// Term is the weeks of a class up to a concert.
type Term struct {
	Class   UID      `json:"class"`
	Ladder  UID      `json:"ladder"`
	Begins  string   `json:"begins" jsonschema:"pattern=^[0-9]{4}-[0-9]{2}-[0-9]{2}$"` // dates
	Concert string   `json:"concert" jsonschema:"pattern=^[0-9]{4}-[0-9]{2}-[0-9]{2}$"`
	Name    string   `json:"name" jsonschema:"maxLength=80"`
	At      string   `json:"at,omitempty" jsonschema:"maxLength=5"`   // "17:30"
	Off     []string `json:"off,omitempty" jsonschema:"maxItems=30"`  // dates in weeks without a lesson
	More    []UID    `json:"more,omitempty" jsonschema:"maxItems=10"` // further ladders
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
	Kind string `json:"kind" jsonschema:"minLength=1,maxLength=20"`
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
	for _, x := range b.Takes {
		note(x.UID)
	}
	return uid, twice
}

// Schema is the published schema of bundle.json, made of the types above (TestTheSchemaIsThatOfTheTypes).
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
