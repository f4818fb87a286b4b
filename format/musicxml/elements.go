package musicxml

import "encoding/xml"

// The elements that are written, in the order in which the standard wants their parts. Reading
// uses the same.

type scorePartwise struct {
	XMLName  xml.Name `xml:"score-partwise"`
	Version  string   `xml:"version,attr,omitempty"`
	Title    string   `xml:"work>work-title,omitempty"`
	Movement string   `xml:"movement-title,omitempty"`
	Software string   `xml:"identification>encoding>software,omitempty"`
	List     []part   `xml:"part-list>score-part"`
	Parts    []music  `xml:"part"`
}

type part struct {
	ID   string `xml:"id,attr"`
	Name string `xml:"part-name"`
}

type music struct {
	ID       string    `xml:"id,attr"`
	Measures []measure `xml:"measure"`
}

type measure struct {
	Number   string `xml:"number,attr"`
	Implicit string `xml:"implicit,attr,omitempty"`
	Items    []any  `xml:",any"`
}

type empty struct{}

type attributes struct {
	XMLName   xml.Name   `xml:"attributes"`
	Divisions int        `xml:"divisions,omitempty"`
	Key       *key       `xml:"key"`
	Time      *meter     `xml:"time"`
	Clef      *clef      `xml:"clef"`
	Staff     *staff     `xml:"staff-details"`
	Transpose *transpose `xml:"transpose"`
	Styles    []style    `xml:"measure-style"`
}

// style says of bars from here on how they are drawn: as signs that repeat bars before them.
type style struct {
	Repeat *struct {
		Type string `xml:"type,attr"`
		Bars string `xml:",chardata"`
	} `xml:"measure-repeat"`
}

type transpose struct {
	Chromatic int `xml:"chromatic"`
	Octaves   int `xml:"octave-change"`
}

type key struct {
	Fifths int    `xml:"fifths"`
	Mode   string `xml:"mode,omitempty"`
}

type meter struct {
	Beats string `xml:"beats"`
	Unit  string `xml:"beat-type"`
}

type clef struct {
	Sign string `xml:"sign"`
	Line int    `xml:"line,omitempty"`
}

type staff struct {
	Lines   int      `xml:"staff-lines"`
	Strings []tuning `xml:"staff-tuning"`
	Capo    int      `xml:"capo,omitempty"`
}

type tuning struct {
	Line   int    `xml:"line,attr"` // from below
	Step   string `xml:"tuning-step"`
	Alter  int    `xml:"tuning-alter,omitempty"`
	Octave int    `xml:"tuning-octave"`
}

type harmony struct {
	XMLName xml.Name  `xml:"harmony"`
	Root    *noteName `xml:"root"`
	Kind    kind      `xml:"kind"`
	Bass    *bassName `xml:"bass"`
	Degrees []degree  `xml:"degree"`
	Frame   *frame    `xml:"frame"`
	Offset  int       `xml:"offset,omitempty"`
}

type noteName struct {
	Step  string `xml:"root-step"`
	Alter int    `xml:"root-alter,omitempty"`
}

type bassName struct {
	Step  string `xml:"bass-step"`
	Alter int    `xml:"bass-alter,omitempty"`
}

type kind struct {
	Text  *string `xml:"text,attr"`
	Value string  `xml:",chardata"`
}

type degree struct {
	Value int    `xml:"degree-value"`
	Alter int    `xml:"degree-alter"`
	Type  string `xml:"degree-type"`
}

type frame struct {
	Strings int         `xml:"frame-strings"`
	Frets   int         `xml:"frame-frets"`
	First   int         `xml:"first-fret,omitempty"`
	Notes   []frameNote `xml:"frame-note"`
}

type frameNote struct {
	String int `xml:"string"`
	Fret   int `xml:"fret"`
	Finger int `xml:"fingering,omitempty"`
}

type direction struct {
	XMLName   xml.Name    `xml:"direction"`
	Placement string      `xml:"placement,attr,omitempty"`
	Rehearsal string      `xml:"direction-type>rehearsal,omitempty"`
	Words     string      `xml:"direction-type>words,omitempty"`
	Metronome *metronome  `xml:"direction-type>metronome"`
	Sound     *soundTempo `xml:"sound"`
}

type metronome struct {
	Unit      string `xml:"beat-unit"`
	Dot       *empty `xml:"beat-unit-dot"`
	PerMinute string `xml:"per-minute"`
}

type soundTempo struct {
	Tempo float64 `xml:"tempo,attr,omitempty"` // quarters a minute
}

type barline struct {
	XMLName  xml.Name `xml:"barline"`
	Location string   `xml:"location,attr,omitempty"`
	Style    string   `xml:"bar-style,omitempty"`
	Ending   *ending  `xml:"ending"`
	Repeat   *repeat  `xml:"repeat"`
}

type ending struct {
	Number string `xml:"number,attr"`
	Type   string `xml:"type,attr"`
}

type repeat struct {
	Direction string `xml:"direction,attr"`
	Times     int    `xml:"times,attr,omitempty"`
}

type note struct {
	XMLName   xml.Name   `xml:"note"`
	Grace     *empty     `xml:"grace"`
	Chord     *empty     `xml:"chord"`
	Pitch     *pitch     `xml:"pitch"`
	Unpitched *empty     `xml:"unpitched"`
	Rest      *rest      `xml:"rest"`
	Duration  int        `xml:"duration"`
	Ties      []tie      `xml:"tie"`
	Voice     string     `xml:"voice,omitempty"`
	Type      string     `xml:"type,omitempty"`
	Dots      []empty    `xml:"dot"`
	Tuplet    *tuplet    `xml:"time-modification"`
	Notehead  string     `xml:"notehead,omitempty"`
	Staff     int        `xml:"staff,omitempty"`
	Notations *notations `xml:"notations"`
	Lyrics    []lyric    `xml:"lyric"`
}

type rest struct {
	Measure string `xml:"measure,attr,omitempty"`
}

type pitch struct {
	Step   string  `xml:"step"`
	Alter  float64 `xml:"alter,omitempty"`
	Octave int     `xml:"octave"`
}

type tie struct {
	Type string `xml:"type,attr"`
}

type tuplet struct {
	Actual int `xml:"actual-notes"`
	Normal int `xml:"normal-notes"`
}

type notations struct {
	Tied      []tie      `xml:"tied"`
	Slides    []spanner  `xml:"slide"`
	Technical *technical `xml:"technical"`
	Arpeggio  *arpeggio  `xml:"arpeggiate"`
	Accents   *accents   `xml:"articulations"`
}

type accents struct {
	Accent *empty `xml:"accent"`
}

type spanner struct {
	Type   string `xml:"type,attr"`
	Number int    `xml:"number,attr,omitempty"`
}

type arpeggio struct {
	Direction string `xml:"direction,attr,omitempty"`
}

type technical struct {
	Up      *empty    `xml:"up-bow"`
	Down    *empty    `xml:"down-bow"`
	Pluck   string    `xml:"pluck,omitempty"`
	String  int       `xml:"string,omitempty"`
	Fret    *int      `xml:"fret"`
	Hammers []spanner `xml:"hammer-on"`
}

type lyric struct {
	Syllabic string `xml:"syllabic,omitempty"`
	Text     string `xml:"text"`
}
