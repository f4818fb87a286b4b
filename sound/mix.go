package sound

// Note is a tone at a moment of a mix.
type Note struct {
	At     float64 // seconds
	Tone   []float64
	Of     Tone // a string, in place of the samples of a tone
	Loud   float64
	String int // which ends when it is used again; 0 for what rings out by itself
	Stop   bool
}

// hush is how fast a string is silenced: the part that is left of it after a sample.
const hush = 0.9972

// headroom is what all is made softer by, so that strums of the whole hand over a click stay
// under full scale.
const headroom = 0.72

// Mix renders notes, in the order of their moments, into so many seconds. A string rings
// until it is used again, or until all are stopped. Where that would still go over full
// scale, the whole is made softer.
func Mix(notes []Note, seconds float64) []float32 {
	return MixUntil(notes, seconds, func() bool { return false })
}

// MixUntil is Mix, and ends with nil as soon as stop says so. Of the tones of strings one is
// held at a time: a song has dozens, of a megabyte each.
func MixUntil(notes []Note, seconds float64, stop func() bool) []float32 {
	out := make([]float32, int(seconds*Rate)) // half the memory, and more than 16 bits want
	ends := make([]int, len(notes))           // in samples; 0 for what rings out
	on := map[int]int{}                       // by string, the note that rings
	for i, n := range notes {
		at := int(n.At * Rate)
		switch {
		case n.Stop:
			for str, k := range on {
				ends[k] = at
				delete(on, str)
			}
		case n.String > 0:
			if k, rings := on[n.String]; rings {
				ends[k] = at
			}
			on[n.String] = i
		}
	}
	of := map[Tone][]int{}
	var tones []Tone // in the order in which they come
	for i, n := range notes {
		switch {
		case n.Stop:
		case n.Of == (Tone{}):
			lay(out, n, n.Tone, ends[i])
		case of[n.Of] == nil:
			tones = append(tones, n.Of)
			fallthrough
		default:
			of[n.Of] = append(of[n.Of], i)
		}
	}
	for _, tone := range tones {
		if stop() {
			return nil
		}
		samples := tone.Samples()
		for _, i := range of[tone] {
			lay(out, notes[i], samples, ends[i])
		}
	}
	soften(out)
	return out
}

// lay adds a note to a mix; end is the sample at which its string is used again, 0 for what
// rings out.
func lay(out []float32, n Note, tone []float64, end int) {
	at := int(n.At * Rate)
	if at < 0 || at >= len(out) {
		return
	}
	tone = tone[:min(len(tone), len(out)-at)]
	whole := len(tone)
	if end > at {
		whole = min(whole, end-at)
	}
	into := out[at:]
	for k, x := range tone[:whole] {
		into[k] += float32(headroom * n.Loud * x)
	}
	left := headroom * n.Loud
	for k := whole; k < len(tone) && left > 0.001; k++ {
		left *= hush
		into[k] += float32(left * tone[k])
	}
}

// soften brings what goes over full scale under it.
func soften(out []float32) {
	top := float32(0)
	for _, x := range out {
		if x > top {
			top = x
		} else if -x > top {
			top = -x
		}
	}
	if top > 0.95 {
		for i := range out {
			out[i] *= 0.95 / top
		}
	}
}
