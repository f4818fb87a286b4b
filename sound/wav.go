package sound

import (
	"encoding/binary"
	"math"
)

// WAV writes samples between -1 and 1 as 16 bits of one channel. Source of the form:
// Microsoft, "Multimedia Programming Interface and Data Specifications 1.0", 1991.
func WAV[T float32 | float64](samples []T) []byte {
	const head = 44
	out := make([]byte, 0, head+2*len(samples))
	size := uint32(2 * len(samples))
	out = append(out, "RIFF"...)
	out = binary.LittleEndian.AppendUint32(out, head-8+size)
	out = append(out, "WAVEfmt "...)
	out = binary.LittleEndian.AppendUint32(out, 16)
	for _, v := range []uint16{1, 1} { // PCM, one channel
		out = binary.LittleEndian.AppendUint16(out, v)
	}
	out = binary.LittleEndian.AppendUint32(out, Rate)
	out = binary.LittleEndian.AppendUint32(out, 2*Rate)
	for _, v := range []uint16{2, 16} {
		out = binary.LittleEndian.AppendUint16(out, v)
	}
	out = append(out, "data"...)
	out = binary.LittleEndian.AppendUint32(out, size)
	for _, s := range samples {
		n := int(float64(s)*math.MaxInt16+math.MaxInt16+0.5) - math.MaxInt16 // rounded
		n = min(math.MaxInt16, max(-math.MaxInt16, n))
		out = append(out, byte(n), byte(n>>8))
	}
	return out
}
