// Package sound makes the tones of plucked strings, muted ones, chucks, palm hits and the
// click, as short mono samples: an extended plucked-string algorithm (Karplus and Strong
// 1983; Jaffe and Smith, "Extensions of the Karplus-Strong Plucked-String Algorithm",
// Computer Music Journal 7(2), 1983). Nothing is sampled from elsewhere.
package sound
