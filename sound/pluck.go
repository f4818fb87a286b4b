package sound

import (
	"math"
	"math/rand/v2"
)

// Rate is the samples a second of everything here.
const Rate = 44100

// Touch is what plucks a string, or keeps it from ringing.
type Touch string

// The touches.
const (
	Flesh Touch = "flesh" // the thumb, a fingertip
	Nail  Touch = "nail"
	Pick  Touch = "pick"
	Palm  Touch = "palm"  // muted with the palm
	Chuck Touch = "chuck" // stopped in the moment in which it sounds
)

// Touches lists them.
var Touches = []Touch{Flesh, Nail, Pick, Palm, Chuck}

// Strings is the family of strings that ring.
type Strings string

// The families.
const (
	Steel Strings = "guitar"
	Nylon Strings = "ukulele" // and the baritone
)

// Families lists them.
var Families = []Strings{Steel, Nylon}

// Lowest and Highest bound the pitches that are rendered, by their MIDI numbers: those of a
// piano, which no string of ours goes beyond.
const Lowest, Highest = 21, 108

// Hertz is a pitch by its MIDI number, in equal temperament with A4 = 440 Hz (ISO 16).
func Hertz(midi int) float64 { return 440 * math.Pow(2, float64(midi-69)/12) }

// Tone is a string that is plucked.
type Tone struct {
	Strings Strings
	Touch   Touch
	Hertz   float64
}

// Figures of the model, from memory, set by ear of their spectra: fundamentals of a guitar
// ring for some seconds, the thick strings longer; nylon shorter; a finger's flesh takes
// the highs away, a nail and a pick leave them.
var touches = map[Touch]struct {
	soft   float64 // of the pluck: how much each pass of smoothing keeps of the sample before
	passes int
	place  float64 // where it is plucked, of the string's length
	short  float64 // how much shorter it rings
}{
	Flesh: {0.5, 3, 0.22, 1},
	Nail:  {0.35, 1, 0.16, 1},
	Pick:  {0.2, 1, 0.12, 1},
	Palm:  {0.6, 4, 0.12, 0.05},
	Chuck: {0.3, 1, 0.2, 0.012},
}

// ring is how long a string takes to fall by 60 decibels, in seconds, and how fast its
// highs go: 0.5 is fastest.
func (t Tone) ring() (seconds, damp float64) {
	seconds, damp = 5.5*math.Pow(110/t.Hertz, 0.45), 0.32
	if t.Strings == Nylon {
		seconds, damp = 2.6*math.Pow(262/t.Hertz, 0.4), 0.45
	}
	return seconds * touches[t.Touch].short, damp
}

// Longest is how long a tone is at most, in seconds.
const Longest = 4.0

// level is how loud tones are, as the root of the mean square of their first part; no sample
// is above top.
const level, levelSpan, top = 0.12, Rate / 5, 0.5

// Samples renders the tone, as loud as every other, faded out at its end. The same tone is
// always the same.
func (t Tone) Samples() []float64 {
	seconds, damp := t.ring()
	touch := touches[t.Touch]
	length := int(math.Min(Longest, math.Max(0.12, seconds)) * Rate)
	omega := 2 * math.Pi * t.Hertz / Rate

	// The loop: a delay, a loss that takes highs first, and an allpass for the part of a
	// sample that the delay lacks, so that the string is in tune.
	gainReal, gainImag := 1-damp+damp*math.Cos(omega), damp*math.Sin(omega)
	lossDelay := math.Atan2(gainImag, gainReal) / omega
	loss := math.Min(0.99999, math.Pow(10, -3/(t.Hertz*seconds))/math.Hypot(gainReal, gainImag))
	period := Rate/t.Hertz - lossDelay
	whole := int(period - 0.2)
	part := period - float64(whole)
	coefficient := math.Sin(omega*(1-part)/2) / math.Sin(omega*(1+part)/2)

	line := t.pluck(whole, touch.soft, touch.passes, touch.place)
	out := make([]float64, length)
	at, before, passedIn, passedOut := 0, 0.0, 0.0, 0.0
	for i := range out {
		sample := line[at]
		out[i] = sample
		lost := loss * ((1-damp)*sample + damp*before)
		before = sample
		passed := coefficient*(lost-passedOut) + passedIn
		passedIn, passedOut = lost, passed
		line[at] = passed
		if at++; at == whole {
			at = 0
		}
	}
	for _, r := range bodies[t.Strings] {
		r.through(out)
	}
	evenOut(out)
	return out
}

// evenOut brings a tone to the level of all, and lets it end in silence.
func evenOut(out []float64) {
	power, most := 0.0, 0.0
	for i, x := range out {
		if i < levelSpan {
			power += x * x
		}
		most = math.Max(most, math.Abs(x))
	}
	scale := math.Min(level/math.Sqrt(power/float64(min(len(out), levelSpan))), top/most)
	fade := min(len(out), Rate/20)
	for i := range out {
		out[i] *= scale
		if left := len(out) - i; left < fade {
			out[i] *= float64(left) / float64(fade)
		}
	}
}

// grain is how much of the pluck is noise: the roughness of a fingertip, a nail, a wound
// string.
const grain = 0.14

// pluck is the string in the moment in which it is let go. What a bridge feels of an ideal
// string plucked at a part of its length is a pulse as wide as that part: partial n has the
// strength sin(n pi place) / n, and those with a node there are missing. What plucks is not
// sharp, so highs are smoothed away. Source: Fletcher and Rossing, The Physics of Musical
// Instruments, the chapter on strings.
func (t Tone) pluck(n int, soft float64, passes int, place float64) []float64 {
	random := rand.New(rand.NewPCG(uint64(t.Hertz*100), uint64(len(t.Touch))))
	noise := make([]float64, n)
	for i := range noise {
		noise[i] = grain * (2*random.Float64() - 1)
	}
	line, width := make([]float64, n), max(1, int(place*float64(n)))
	for i := range line {
		line[i] = noise[i] - noise[(i-width+n)%n] - place
		if i < width {
			line[i]++
		}
	}
	for range passes {
		before := line[n-1]
		for i, x := range line {
			before = (1-soft)*x + soft*before
			line[i] = before
		}
	}
	mean := 0.0
	for _, x := range line {
		mean += x / float64(n)
	}
	for i := range line {
		line[i] -= mean // a string rests around its middle
	}
	return line
}
