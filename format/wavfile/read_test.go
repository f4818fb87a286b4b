package wavfile_test

import (
	"bytes"
	"encoding/binary"
	"math"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/format/wavfile"
	"arplin/sound"
)

// file writes a recording in a form of its own. Source of the form: Microsoft, "Multimedia Programming Interface and Data
// Specifications 1.0", 1991.
func file(form, channels, rate, bits int, data []byte) []byte {
	var out bytes.Buffer
	out.WriteString("RIFF")
	_ = binary.Write(&out, binary.LittleEndian, uint32(36+len(data)))
	out.WriteString("WAVEfmt ")
	for _, v := range []any{
		uint32(16), uint16(form), uint16(channels), uint32(rate), uint32(rate * channels * bits / 8), uint16(channels * bits / 8), uint16(bits),
	} {
		_ = binary.Write(&out, binary.LittleEndian, v)
	}
	out.WriteString("data")
	_ = binary.Write(&out, binary.LittleEndian, uint32(len(data)))
	out.Write(data)
	return out.Bytes()
}

func little(values ...any) []byte {
	var out bytes.Buffer
	for _, v := range values {
		_ = binary.Write(&out, binary.LittleEndian, v)
	}
	return out.Bytes()
}

// Half of full scale is half of full scale, in every depth.
func TestDepthsAndChannels(t *testing.T) {
	for name, data := range map[string][]byte{
		"16 bits":   file(1, 1, 44100, 16, little(int16(0), int16(16384), int16(-16384))),
		"8 bits":    file(1, 1, 8000, 8, []byte{128, 192, 64}),
		"24 bits":   file(1, 1, 96000, 24, []byte{0, 0, 0, 0, 0, 0x40, 0, 0, 0xC0}),
		"32 bits":   file(1, 1, 48000, 32, little(int32(0), int32(1<<30), int32(-1<<30))),
		"32 floats": file(3, 1, 48000, 32, little(float32(0), float32(0.5), float32(-0.5))),
		"stereo":    file(1, 2, 44100, 16, little(int16(0), int16(0), int16(32767), int16(0), int16(-32768), int16(0))),
	} {
		s, err := wavfile.Read(bytes.NewReader(data))
		require.NoError(t, err, name)
		require.Len(t, s.Samples, 3, name)
		for i, want := range []float64{0, 0.5, -0.5} {
			assert.InDelta(t, want, float64(s.Samples[i]), 1e-4, name)
		}
	}
	ours, err := wavfile.Read(bytes.NewReader(sound.WAV([]float64{0, 0.25, -1})))
	require.NoError(t, err)
	assert.Equal(t, sound.Rate, ours.Rate)
	assert.InDelta(t, 0.25, float64(ours.Samples[1]), 1e-4)
	assert.InDelta(t, 1.0/3, ours.Clipped, 1e-9)
}

func TestWhatIsNoSound(t *testing.T) {
	for name, data := range map[string][]byte{
		"nothing": {}, "text": []byte("a list of songs, and their words"), "MIDI": []byte("MThd\x00\x00\x00\x06\x00\x01"), "a head alone": []byte("RIFF\x10\x00\x00\x00WAVE"),
		"no samples": file(1, 1, 44100, 16, nil), "packed": file(85, 1, 44100, 16, []byte{1, 2, 3, 4}), "no rate": file(1, 1, 0, 16, []byte{1, 2}),
		"no channels": file(1, 0, 44100, 16, []byte{1, 2}), "odd bits": file(1, 1, 44100, 13, []byte{1, 2, 3, 4}),
	} {
		_, err := wavfile.Read(bytes.NewReader(data))
		assert.ErrorIs(t, err, wavfile.ErrNoSound, name)
	}
	cut := file(1, 1, 44100, 16, little(int16(1), int16(2), int16(3)))
	s, err := wavfile.Read(bytes.NewReader(cut[:len(cut)-2]))
	require.NoError(t, err, "a file that is cut short is read as far as it goes")
	assert.Len(t, s.Samples, 2)
	nan, err := wavfile.Read(bytes.NewReader(file(3, 1, 44100, 32, little(float32(math.NaN()), float32(math.Inf(1)), float32(9)))))
	require.NoError(t, err)
	assert.Equal(t, []float32{0, 0, 1}, nan.Samples)
}

// A file of a hundred bytes that says that it is long costs no more memory than one of a hundred bytes.
func TestSizesAreNotBelieved(t *testing.T) {
	whole := file(1, 1, 8000, 8, []byte{128, 255, 0})
	format, data := whole[12:36], whole[36:]
	long := func(name string, inside ...byte) []byte {
		return append(append([]byte(name), 0xf0, 0xff, 0xff, 0xff), inside...)
	}
	for name, chunks := range map[string][][]byte{
		"a list before":         {long("LIST", 'I', 'N', 'F', 'O'), format, data},
		"a list after":          {format, long("LIST", 'I', 'N', 'F', 'O')},
		"a list with a list":    {format, append([]byte("LIST\x10\x00\x00\x00INFO"), long("INAM", 1, 2, 3, 4)...), data},
		"a format":              {long("fmt ", format[8:]...), data},
		"a sampler":             {long("smpl"), format, data},
		"samples":               {format, long("data", 128, 255)},
		"samples, no format":    {data},
		"two formats, one huge": {format, long("fmt "), data},
	} {
		b := append([]byte{}, whole[:12]...)
		for _, c := range chunks {
			b = append(b, c...)
		}
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, _ = wavfile.Read(bytes.NewReader(b))
		runtime.ReadMemStats(&after)
		assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(8<<20), name)
	}
}

// Whatever comes in, an error or samples between -1 and 1.
func FuzzRead(f *testing.F) {
	f.Add(sound.WAV([]float64{0, 0.5, -0.5, 1}))
	f.Add(file(3, 2, 48000, 32, little(float32(0.5), float32(-0.5))))
	f.Add(file(1, 1, 8000, 8, []byte{128, 255, 0}))
	f.Fuzz(func(t *testing.T, data []byte) {
		s, err := wavfile.Read(bytes.NewReader(data))
		if err != nil {
			return
		}
		for _, x := range s.Samples {
			if !(x >= -1 && x <= 1) {
				t.Fatalf("a sample of %v", x)
			}
		}
	})
}
