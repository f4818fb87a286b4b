package bundle_test

import (
	"encoding/json"
	"os"
	"reflect"
	"strings"
	"testing"

	"github.com/invopop/jsonschema"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/bundle"
)

const uidPattern = "^[A-Za-z0-9-]{1,80}$"

// The published schema is that of the types; ARPLIN_WRITE_SCHEMA=1 writes it anew. Made by
// invopop/jsonschema, which the program itself does not need.
func TestTheSchemaIsThatOfTheTypes(t *testing.T) {
	reflector := jsonschema.Reflector{
		Anonymous: true, ExpandedStruct: true,
		Namer: func(t reflect.Type) string { return strings.ToLower(t.Name()) },
		Mapper: func(t reflect.Type) *jsonschema.Schema {
			if t == reflect.TypeFor[bundle.UID]() {
				return &jsonschema.Schema{Ref: "#/$defs/uid"}
			}
			return nil
		},
	}
	s := reflector.Reflect(bundle.Bundle{})
	s.Title, s.Description = "What a teacher takes along from Arplin", "bundle.json in a bundle. Things refer to one another by their uid."
	s.Required = []string{"arplin"}
	in := func(of *jsonschema.Schema, name string) *jsonschema.Schema {
		p, there := of.Properties.Get(name)
		require.True(t, there, name)
		return p
	}
	*in(s, "arplin") = jsonschema.Schema{Const: bundle.Format, Description: "The form of the file."}
	s.Definitions["uid"] = &jsonschema.Schema{Type: "string", Pattern: uidPattern, Description: "Names a thing for good, across accounts and machines."}
	// What packages of the core write as they do.
	*in(s.Definitions["song"], "song") = jsonschema.Schema{Type: "object", Required: []string{"title", "sections"}, Description: "A song: title, meter, tempo, sections with bars, chords, words and tune; lengths in ticks, 5040 a quarter."}
	for of, name := range map[string]string{"ladder": "ladder", "entry": "step"} {
		*in(s.Definitions[of], name) = jsonschema.Schema{Type: "object", Required: []string{"format", "steps"}}
	}
	*in(s.Definitions["ladder"], "places") = jsonschema.Schema{
		Type: "object", PropertyNames: &jsonschema.Schema{Type: "string", Pattern: uidPattern}, AdditionalProperties: &jsonschema.Schema{Type: "integer", Minimum: json.Number("1")},
	}
	*in(s.Definitions["arrangement"], "passes") = jsonschema.Schema{Type: "array"}
	text, err := json.MarshalIndent(s, "", "  ")
	require.NoError(t, err)
	if os.Getenv("ARPLIN_WRITE_SCHEMA") != "" {
		require.NoError(t, os.WriteFile("schema.json", append(text, '\n'), 0o644))
	}
	assert.JSONEq(t, string(text), string(bundle.Schema), "a field was added or changed: ARPLIN_WRITE_SCHEMA=1 go test ./format/bundle")
}
