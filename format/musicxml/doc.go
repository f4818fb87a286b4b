// Package musicxml writes and reads MusicXML 4.0 (W3C Community Group report, 2021), score-partwise:
// the tune on a staff of its own, what the right hand does on a tablature staff, chord symbols with
// their frames, repeats and endings, words. Reading takes the chords, the tune, meter, key,
// tempo, form and words of a plain or a compressed file.
package musicxml
