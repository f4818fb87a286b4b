package midifile

import (
	"encoding/binary"
	"errors"
	"fmt"
)

// What the library does not look at before it takes room for it: it takes what there is of a file
// that is cut, and as much memory as an event says that it is long.

// whole reports a file whose chunks and events are all there. A chunk is four letters and its
// length; the head says how many tracks come. Errors name the byte.
func whole(data []byte) error {
	tracks, announced := 0, 0
	for at := 0; at < len(data); {
		if len(data)-at < 8 {
			return fmt.Errorf("midi: byte %d: the file is cut", at)
		}
		length := int(binary.BigEndian.Uint32(data[at+4:]))
		name, body := string(data[at:at+4]), data[at+8:]
		if length > len(body) {
			return fmt.Errorf("midi: byte %d: the file is cut: %d bytes are missing", at, length-len(body))
		}
		switch {
		case name == "MThd" && length >= 6:
			announced = int(binary.BigEndian.Uint16(body[2:]))
		case name == "MTrk":
			tracks++
			if in, err := wholeTrack(body[:length]); err != nil {
				return fmt.Errorf("midi: byte %d: %w", at+8+in, err)
			}
		}
		at += 8 + length
	}
	if tracks < announced || announced == 0 {
		return fmt.Errorf("midi: byte %d: the file is cut: it has %d of %d tracks", len(data), tracks, announced)
	}
	return nil
}

var (
	errLonger = errors.New("an event is longer than its track")
	errEvent  = errors.New("this is no event of a MIDI file")
	errEnd    = errors.New("the track does not end where it says")
)

const (
	metaEvent   = 0xff
	endOfTrack  = 0x2f
	sysEx       = 0xf0
	escaped     = 0xf7
	firstStatus = 0x80
)

// wholeTrack follows the events of a track to its end; at is where it is broken.
func wholeTrack(body []byte) (at int, err error) {
	running := byte(0)
	for at < len(body) {
		next, _, err := varLength(body, at) // the time before it
		if err != nil {
			return at, err
		}
		if at = next; at >= len(body) {
			return at, errLonger
		}
		status := body[at]
		switch {
		case status == metaEvent || status == sysEx || status == escaped:
			running = 0
			if at++; status == metaEvent {
				at++
			}
			start, length, err := varLength(body, at)
			if err != nil {
				return at, err
			}
			if length > len(body)-start {
				return at, errLonger
			}
			next = start + length
			if status == metaEvent && body[at-1] == endOfTrack && next != len(body) {
				return at, errEnd
			} else if status == metaEvent && body[at-1] == endOfTrack {
				return next, nil
			}
			at = next
			continue
		case status > sysEx || status < firstStatus && running == 0:
			return at, errEvent
		case status >= firstStatus:
			running = status
			at++
		}
		if at += dataBytes(running); at > len(body) {
			return len(body), errLonger
		}
	}
	return at, errEnd
}

// dataBytes is how many bytes follow a status of a channel.
func dataBytes(status byte) int {
	const program, pressure = 0xc0, 0xd0
	if kind := status & 0xf0; kind == program || kind == pressure {
		return 1
	}
	return 2
}

// varLength reads a length of up to four bytes, seven bits each.
func varLength(body []byte, at int) (next, n int, err error) {
	const most = 4
	for i := range most {
		if at+i >= len(body) {
			return at, 0, errLonger
		}
		n = n<<7 | int(body[at+i]&0x7f)
		if body[at+i] < firstStatus {
			return at + i + 1, n, nil
		}
	}
	return at, 0, errEvent
}
