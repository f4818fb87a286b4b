package wavfile

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"

	"github.com/go-audio/audio"
	"github.com/go-audio/wav"
)

// What is read of a recording, and at which rates.
const (
	MostSeconds = 30 * 60
	lowestRate  = 4000
	highestRate = 384000
)

// Sound is a recording of one channel.
type Sound struct {
	Rate    int       // samples a second
	Samples []float32 // -1 to 1
	Clipped float64   // the part of the samples that stand at full scale
	Cut     bool      // the recording goes on after the most that is read
}

// ErrNoSound is what is no WAVE file, or holds nothing that can be heard.
var ErrNoSound = errors.New("this is no recording that can be read: a WAV file, please, of 8 to 32 bits")

// Forms of samples. Source: Microsoft, "Multimedia Programming Interface and Data Specifications 1.0", 1991, and mmreg.h.
const (
	formPCM   = 1
	formFloat = 3
	formOwn   = 0xFFFE // the same, said at more length
)

// essence is the format and the samples of a file, without the chunks around them: the reader of chunks sets as much memory
// aside as they say that they are long.
func essence(r io.Reader) (io.ReadSeeker, error) {
	var head [12]byte
	if _, err := io.ReadFull(r, head[:]); err != nil || string(head[:4]) != "RIFF" || string(head[8:]) != "WAVE" {
		return nil, ErrNoSound
	}
	var format []byte
	for {
		var chunk [8]byte
		if _, err := io.ReadFull(r, chunk[:]); err != nil {
			return nil, ErrNoSound
		}
		size := int64(binary.LittleEndian.Uint32(chunk[4:]))
		padded := size + size%2
		switch name := string(chunk[:4]); {
		case name == "data" && format != nil:
			return sequel{io.MultiReader(bytes.NewReader(head[:]), bytes.NewReader(format), bytes.NewReader(chunk[:]), r)}, nil
		case name == "fmt " && format == nil && size <= longestFormat:
			format = append(chunk[:], make([]byte, padded)...)
			if _, err := io.ReadFull(r, format[len(chunk):]); err != nil {
				return nil, ErrNoSound
			}
		default:
			if _, err := io.CopyN(io.Discard, r, padded); err != nil {
				return nil, ErrNoSound
			}
		}
	}
}

// longestFormat is far more than any form of samples says of itself.
const longestFormat = 4096

// sequel is read once, from its beginning to its end.
type sequel struct{ io.Reader }

func (sequel) Seek(int64, int) (int64, error) { return 0, errors.ErrUnsupported }

// Read reads a WAVE file, its channels made one.
func Read(r io.Reader) (s Sound, err error) {
	defer func() {
		if recover() != nil { // the reader of chunks trusts sizes that a file gives
			s, err = Sound{}, ErrNoSound
		}
	}()
	own, err := essence(r)
	if err != nil {
		return Sound{}, err
	}
	d := wav.NewDecoder(own)
	if err := d.FwdToPCM(); err != nil || d.PCMChunk == nil || d.NumChans < 1 || d.NumChans > 64 {
		return Sound{}, ErrNoSound
	}
	float := d.WavAudioFormat == formFloat
	if d.WavAudioFormat != formPCM && d.WavAudioFormat != formOwn && !float || float && d.BitDepth != 32 {
		return Sound{}, fmt.Errorf("%w; this one is packed (form %d)", ErrNoSound, d.WavAudioFormat)
	}
	if d.SampleRate < lowestRate || d.SampleRate > highestRate {
		return Sound{}, fmt.Errorf("%w; this one has %d samples a second", ErrNoSound, d.SampleRate)
	}
	s.Rate = int(d.SampleRate)
	full := math.Pow(2, float64(d.BitDepth)-1)
	value := func(n int) float64 { return float64(n) / full }
	switch {
	case float:
		value = func(n int) float64 { return float64(math.Float32frombits(uint32(int32(n)))) }
	case d.BitDepth == 8:
		value = func(n int) float64 { return float64(n-128) / 128 }
	}
	channels, clipped := int(d.NumChans), 0
	block := &audio.IntBuffer{Data: make([]int, channels*8192)}
	most := MostSeconds * s.Rate
	for len(s.Samples) < most {
		n, err := d.PCMBuffer(block)
		if err != nil || n == 0 {
			break // a file that is cut short is read as far as it goes
		}
		for at := 0; at+channels <= n; at += channels {
			sum := 0.0
			for c := range channels {
				v := value(block.Data[at+c])
				if math.IsNaN(v) || math.IsInf(v, 0) {
					v = 0
				}
				sum += max(-1, min(1, v))
			}
			sum /= float64(channels)
			if math.Abs(sum) > 0.998 {
				clipped++
			}
			s.Samples = append(s.Samples, float32(sum))
		}
		s.Cut = len(s.Samples) >= most
	}
	if len(s.Samples) == 0 {
		return Sound{}, fmt.Errorf("%w; this one is empty", ErrNoSound)
	}
	s.Samples = s.Samples[:min(len(s.Samples), most)]
	s.Clipped = float64(clipped) / float64(len(s.Samples))
	return s, nil
}
