package sound

// Note is a tone at a moment of a mix.
type Note struct {
	At     float64 // seconds
	Tone   []float64
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
	for i, n := range notes {
		at := int(n.At * Rate)
		if n.Stop || at < 0 || at >= len(out) {
			continue
		}
		tone := n.Tone[:min(len(n.Tone), len(out)-at)]
		whole := len(tone)
		if ends[i] > at {
			whole = min(whole, ends[i]-at)
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
	return out
}
