package difficulty

// WNBD is the weighted note-to-beat distance of a cyclic rhythm, a published
// measure of syncopation (Gómez, Melvin, Rappaport and Toussaint, Mathematical
// measures of syncopation, 2005): for a note at distance T from the nearest beat,
// in beats, 1/T when it ends by the next beat or not before the second, 2/T when
// it ends between the two, and 0 on a beat; the mean over all notes. Onsets are
// pulses in rising order, perBeat the pulses of a beat, pulses those of the cycle.
//
// The off_beat part sums the same 1/T over the fingers' voice, without the
// factor for the ending and without the mean, so that adding a note never lowers
// it.
func WNBD(onsets []int, pulses, perBeat int) float64 {
	if len(onsets) == 0 {
		return 0
	}
	sum := 0.0
	for i, x := range onsets {
		off := min(x%perBeat, perBeat-x%perBeat)
		if off == 0 {
			continue
		}
		end := onsets[(i+1)%len(onsets)]
		if end <= x {
			end += pulses
		}
		next := (x/perBeat + 1) * perBeat
		d := float64(perBeat) / float64(off)
		if end > next && end < next+perBeat {
			d *= 2
		}
		sum += d
	}
	return sum / float64(len(onsets))
}
