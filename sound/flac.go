package sound

import (
	"bytes"
	"fmt"
	"math"

	"github.com/mewkiz/flac"
	"github.com/mewkiz/flac/frame"
	"github.com/mewkiz/flac/meta"
)

// What is taken home has half the rate, above which plucked strings have little, and twelve of
// the sixteen bits: a noise 74 dB under full scale. Together that is a seventh of the WAV.
const (
	homeRate  = Rate / 2
	homeBits  = 12
	homeBlock = 1024 // a plucked string is loud for less than a twentieth of a second
)

// FLAC writes samples between -1 and 1 as 12 bits of one channel at half the rate. Source of the
// form: RFC 9639, 2024.
func FLAC(samples []float32) ([]byte, error) {
	half := halved(samples)
	var out bytes.Buffer
	enc, err := flac.NewEncoder(&out, &meta.StreamInfo{BlockSizeMin: homeBlock, BlockSizeMax: homeBlock, SampleRate: homeRate, NChannels: 1, BitsPerSample: homeBits, NSamples: uint64(len(half))})
	if err != nil {
		return nil, fmt.Errorf("flac: %w", err)
	}
	enc.EnablePredictionAnalysis(true)
	for at := 0; at < len(half); at += homeBlock {
		block := half[at:min(len(half), at+homeBlock)]
		if err := enc.WriteFrame(&frame.Frame{
			Header:    frame.Header{HasFixedBlockSize: true, BlockSize: uint16(len(block)), SampleRate: homeRate, Channels: frame.ChannelsMono, BitsPerSample: homeBits, Num: uint64(at / homeBlock)},
			Subframes: []*frame.Subframe{{SubHeader: frame.SubHeader{Pred: frame.PredVerbatim}, Samples: block, NSamples: len(block)}},
		}); err != nil {
			return nil, fmt.Errorf("flac: %w", err)
		}
	}
	if err := enc.Close(); err != nil {
		return nil, fmt.Errorf("flac: %w", err)
	}
	return out.Bytes(), nil
}

// halfBand is a low pass for every second sample: the half of its taps that is not zero.
var halfBand = func() (taps [8]float64) {
	sum := 0.0
	for i := range taps {
		x := (float64(i) + 0.5) * math.Pi // half a period of the sinc for each second tap
		window := 0.5 + 0.5*math.Cos(x/float64(len(taps)+1))
		taps[i] = math.Sin(x) / x * window
		sum += taps[i]
	}
	for i := range taps {
		taps[i] /= 4 * sum // both sides together weigh a half
	}
	return taps
}()

// halved is every second sample of what is left under half the rate, as whole numbers.
func halved(samples []float32) []int32 {
	at := func(i int) float64 {
		if i < 0 || i >= len(samples) {
			return 0
		}
		return float64(samples[i])
	}
	out := make([]int32, (len(samples)+1)/2)
	for i := range out {
		x := at(2*i) / 2
		for k, tap := range halfBand {
			x += tap * (at(2*i-2*k-1) + at(2*i+2*k+1))
		}
		const full = 1<<(homeBits-1) - 1
		out[i] = min(full, max(-full, int32(math.Round(x*full))))
	}
	return out
}
