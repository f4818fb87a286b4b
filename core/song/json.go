package song

import (
	"encoding/json"
	"fmt"

	"arplin/core/bpm"
	"arplin/core/pattern"
)

// format is the number of the JSON form. Form 1 had no number and no ids.
const format = 2

// Decode reads a song from the store's JSON and checks it. Older forms are read,
// too: what has no ids yet gets them in order.
func Decode(data []byte) (Song, error) {
	s, err := DecodeBare(data)
	if err != nil {
		return s, err
	}
	return s.Numbered(), nil
}

// DecodeBare is Decode without numbering what has no ids.
func DecodeBare(data []byte) (Song, error) {
	var s struct {
		Format int `json:"format"`
		Song
		Meter string `json:"meter"`
	}
	if err := json.Unmarshal(data, &s); err != nil {
		return Song{}, fmt.Errorf("song: %w", err)
	}
	if s.Format > format {
		return Song{}, fmt.Errorf("song: it is in form %d, and this program reads up to %d", s.Format, format)
	}
	m, err := pattern.ParseMeter(s.Meter)
	if err != nil {
		return Song{}, fmt.Errorf("song: %w", err)
	}
	s.Song.Meter = m
	if s.Tempo < bpm.Min || s.Tempo > bpm.Max {
		return Song{}, fmt.Errorf("song: a tempo of %d is not between %d and %d", s.Tempo, bpm.Min, bpm.Max)
	}
	return s.Song, nil
}

// Encode is the inverse of Decode.
func (s Song) Encode() ([]byte, error) {
	return json.Marshal(struct {
		Format int `json:"format"`
		Song
		Meter string `json:"meter"`
	}{format, s, s.Meter.String()})
}
