package bundle_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/format/bundle"
)

// What is written keeps to the schema, by a reader of JSON Schema 2020-12 that is not ours
// (santhosh-tekuri/jsonschema), and is read back.
func TestWrittenIsReadBack(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		uid := rapid.Custom(func(rt *rapid.T) bundle.UID {
			return bundle.UID(rapid.StringMatching(`[a-f0-9]{16}-song-[1-9][0-9]{0,4}`).Draw(rt, "uid"))
		})
		name := rapid.StringN(1, 30, 120)
		b := bundle.Bundle{Arplin: bundle.Format, Made: time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)}
		for range rapid.IntRange(0, 4).Draw(rt, "things") {
			class, student, song, on := uid.Draw(rt, "class"), uid.Draw(rt, "student"), uid.Draw(rt, "song"), uid.Draw(rt, "ladder")
			b.Songs = append(b.Songs, bundle.Song{UID: song, Song: json.RawMessage(`{"title":"Lane","sections":[]}`)})
			b.Patterns = append(b.Patterns, bundle.Pattern{UID: uid.Draw(rt, "pattern"), Name: name.Draw(rt, "name"), Notation: "4/4: p i m a"})
			b.Classes = append(b.Classes, bundle.Class{UID: class, Name: name.Draw(rt, "class name"), Minutes: rapid.IntRange(1, 600).Draw(rt, "minutes"), Fingers: "fixed", Pick: rapid.Bool().Draw(rt, "pick")})
			b.Students = append(b.Students, bundle.Student{UID: student, Class: class, Name: "Ilse", Instrument: "guitar", LeftHanded: rapid.Bool().Draw(rt, "left"), Note: rapid.String().Draw(rt, "note")})
			b.Ladders = append(b.Ladders, bundle.Ladder{UID: on, Class: class, Song: song, Sections: []int{1}, PatternName: "Roll", Target: "4/4: p i m a", Progress: "now", Ladder: json.RawMessage(`{"format":2,"steps":[]}`), Places: map[bundle.UID]int{student: 1}})
			b.Log = append(b.Log, bundle.Entry{UID: uid.Draw(rt, "entry"), Student: student, Ladder: on, Step: json.RawMessage(`{"format":2,"steps":[]}`), Tempo: rapid.IntRange(1, 400).Draw(rt, "tempo"), At: b.Made})
			b.Terms = append(b.Terms, bundle.Term{Class: class, Ladder: on, Begins: "2026-09-01", Concert: "2026-12-18", Name: "the evening"})
			b.Arrangements = append(b.Arrangements, bundle.Arrangement{Ladder: on, Groups: [][]bundle.UID{{student}}, Passes: json.RawMessage(`[]`), Parts: [][]bundle.Part{{{Kind: "step", Step: 2, Of: on}}}})
		}
		data, err := bundle.Write(b)
		require.NoError(rt, err)
		back, err := bundle.Read(data)
		require.NoError(rt, err)
		want, err := json.Marshal(b)
		require.NoError(rt, err)
		got, err := json.Marshal(back)
		require.NoError(rt, err)
		assert.JSONEq(rt, string(want), string(got))
	})
}

// The zip has the bundle and the schema to which it keeps. Source: APPNOTE (zip), by archive/zip.
func TestTheZip(t *testing.T) {
	data, err := bundle.Write(bundle.Bundle{})
	require.NoError(t, err)
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
	}
	assert.ElementsMatch(t, []string{"bundle.json", "schema.json"}, names)
}

func TestWhatIsNoBundle(t *testing.T) {
	for data, want := range map[string]string{
		"":                                   "no bundle",
		"[]":                                 "no bundle",
		`{"arplin":2}`:                       "in form 2",
		`{"arplin":1,"songs":[{"uid":"a"}]}`: "/songs/0",
		`{"arplin":1,"songs":[{"uid":"ä ö","song":{"title":"x","sections":[]}}]}`:                               "/songs/0/uid",
		`{"arplin":1,"students":[{"uid":"a","class":"b","name":"Ilse","instrument":"guitar","surname":"Vos"}]}`: "/students/0",
		`{"arplin":1,"extra":true}`: "extra",
		"PK\x03\x04":                "cut or broken",
	} {
		_, err := bundle.Read([]byte(data))
		assert.ErrorContains(t, err, want, data)
	}
	twice := bundle.Bundle{Songs: []bundle.Song{{UID: "a"}}, Log: []bundle.Entry{{UID: "a"}}}
	uid, is := twice.Twice()
	assert.True(t, is)
	assert.Equal(t, bundle.UID("a"), uid)
}

func FuzzRead(f *testing.F) {
	data, err := bundle.Write(bundle.Bundle{Patterns: []bundle.Pattern{{UID: "a-pattern-1", Name: "Roll", Notation: "4/4: p i m a"}}})
	if err != nil {
		f.Fatal(err)
	}
	f.Add(data)
	f.Add([]byte(`{"arplin":1,"patterns":[{"uid":"a","name":"Roll","notation":"4/4: p"}]}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		if b, err := bundle.Read(data); err == nil && b.Arplin != bundle.Format {
			t.Fatal("another form")
		}
	})
}
