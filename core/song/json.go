package song

import (
	"encoding/json"
	"fmt"

	"arplin/core/hand"
)

// Decode reads a song from the store's JSON and checks it.
func Decode(data []byte) (Song, error) {
	var s struct {
		Song
		Meter string `json:"meter"`
	}
	if err := json.Unmarshal(data, &s); err != nil {
		return Song{}, fmt.Errorf("song: %w", err)
	}
	m, err := hand.ParseMeter(s.Meter)
	if err != nil {
		return Song{}, fmt.Errorf("song: %w", err)
	}
	s.Song.Meter = m
	if s.Tempo < MinTempo || s.Tempo > MaxTempo {
		return Song{}, fmt.Errorf("song: a tempo of %d is not between %d and %d", s.Tempo, MinTempo, MaxTempo)
	}
	return s.Song, nil
}

// Encode is the inverse of Decode.
func (s Song) Encode() ([]byte, error) {
	return json.Marshal(struct {
		Song
		Meter string `json:"meter"`
	}{s, s.Meter.String()})
}
