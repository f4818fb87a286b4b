package catalogue

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"

	"arplin/core/pattern"
)

// Entry is a pattern of the catalogue with what a teacher says about it.
type Entry struct {
	ID          string
	Name        string
	Notation    string // canonical
	Family      string
	Feel        string          // "straight" or "swung"
	Tempo       [2]int          // tapped beats a minute that suit it, slowest and fastest
	Instruments []string        // families of instruments
	After       []string        // ids of the patterns that come before it
	Says        string          // the sentence that introduces it
	Watch       string          // where it tends to go wrong
	Pattern     pattern.Pattern `json:"-"`
}

//go:embed catalogue.json
var catalogueJSON []byte

// Catalogue lists Arplin's own patterns in teaching order within each family.
var All = mustReadCatalogue(catalogueJSON)

func mustReadCatalogue(data []byte) []Entry {
	var file struct{ Patterns []Entry }
	if err := json.Unmarshal(data, &file); err != nil {
		panic(fmt.Sprintf("hand: catalogue.json: %v", err))
	}
	for i := range file.Patterns {
		e := &file.Patterns[i]
		p, err := pattern.Parse(e.Notation)
		if err != nil {
			panic(fmt.Sprintf("hand: catalogue.json: %s: %v", e.ID, err))
		}
		e.Pattern = p
	}
	return file.Patterns
}

// ByID finds an entry of the catalogue.
func ByID(id string) (Entry, bool) {
	for _, e := range All {
		if e.ID == id {
			return e, true
		}
	}
	return Entry{}, false
}

// ByTempo is a figure with the fastest tempo that suits it.
func ByTempo(id string) (p pattern.Pattern, fastest int, ok bool) {
	e, ok := ByID(id)
	return e.Pattern, e.Tempo[1], ok
}

// Families lists the families of the catalogue in its order.
func Families() []string {
	var list []string
	for _, e := range All {
		if !slices.Contains(list, e.Family) {
			list = append(list, e.Family)
		}
	}
	return list
}

// InMeter lists the entries that fit a meter.
func InMeter(m pattern.Meter) []Entry {
	var fit []Entry
	for _, e := range All {
		if e.Pattern.Meter == m {
			fit = append(fit, e)
		}
	}
	return fit
}
