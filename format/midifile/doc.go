// Package midifile writes and reads Standard MIDI Files (MIDI 1.0, RP-001): tempo, meter,
// markers, and a track a part with a channel a string. The bytes are those of the library
// gomidi; here is what of a piece goes into them and comes out.
package midifile
