package musicxml

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"

	"golang.org/x/net/html/charset"

	"arplin/core/song"
	"arplin/letters"
)

// Problem is what could not be used, with its place.
type Problem struct {
	Bar  int // counted through the file from 1; 0 for the whole of it
	Text string
}

func (p Problem) String() string {
	if p.Bar == 0 {
		return p.Text
	}
	return fmt.Sprintf("bar %d: %s", p.Bar, p.Text)
}

// Limits of what is read.
const (
	MaxBytes    = 16 << 20 // unpacked
	maxProblems = 60
)

// Read reads a file, plain or compressed. What it cannot use is listed; a file of which nothing
// can be used is an error.
func Read(data []byte) (song.Song, []Problem, error) {
	if bytes.HasPrefix(data, []byte("PK")) {
		var err error
		if data, err = unpack(data); err != nil {
			return song.Song{}, nil, err
		}
	}
	if len(data) > MaxBytes {
		return song.Song{}, nil, fmt.Errorf("musicxml: the file has more than %d MB", MaxBytes>>20)
	}
	recode := charset.NewReaderLabel
	if letters.Is16(data) { // the decoder begins with single bytes, so it is given UTF-8, whatever the head says
		text, err := letters.Text(data)
		if err != nil {
			return song.Song{}, nil, fmt.Errorf("musicxml: %w", err)
		}
		data, recode = []byte(text), func(_ string, in io.Reader) (io.Reader, error) { return in, nil }
	}
	d := xml.NewDecoder(bytes.NewReader(data))
	d.CharsetReader = recode
	var s scorePartwise
	if err := d.Decode(&s); err != nil {
		return song.Song{}, nil, brokenFile(err, data)
	}
	r := reader{score: s}
	sg, err := r.song()
	return sg, r.problems, err
}

func brokenFile(err error, data []byte) error {
	var syntax *xml.SyntaxError
	switch {
	case bytes.Contains(data[:min(len(data), 2000)], []byte("<score-timewise")):
		return errors.New("musicxml: this file is written bar by bar for all parts; export it again part by part (score-partwise)")
	case errors.As(err, &syntax):
		return fmt.Errorf("musicxml: line %d: %s", syntax.Line, syntax.Msg)
	case strings.Contains(err.Error(), "expected element type"):
		return errors.New("musicxml: this is XML, but no score")
	}
	return fmt.Errorf("musicxml: %w", err)
}

// unpack takes the score out of a compressed file: the one that its container names, else the
// first that is there.
func unpack(data []byte) ([]byte, error) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, errors.New("musicxml: the compressed file is cut or broken")
	}
	name := ""
	if f, err := z.Open("META-INF/container.xml"); err == nil {
		var c struct {
			Files []struct {
				Path string `xml:"full-path,attr"`
			} `xml:"rootfiles>rootfile"`
		}
		if xml.NewDecoder(io.LimitReader(f, 1<<16)).Decode(&c) == nil && len(c.Files) > 0 {
			name = c.Files[0].Path
		}
		_ = f.Close() // only read
	}
	for _, f := range z.File {
		ext := strings.ToLower(path.Ext(f.Name))
		if f.Name != name && (name != "" || ext != ".xml" && ext != ".musicxml" || strings.HasPrefix(f.Name, "META-INF/")) {
			continue
		}
		in, err := f.Open()
		if err != nil {
			break
		}
		out, err := io.ReadAll(io.LimitReader(in, MaxBytes+1))
		if err != nil {
			return nil, errors.New("musicxml: the compressed file is cut or broken")
		}
		return out, nil
	}
	return nil, errors.New("musicxml: there is no score in the compressed file")
}

// UnmarshalXML keeps what a bar is made of in its order.
func (m *measure) UnmarshalXML(d *xml.Decoder, start xml.StartElement) error {
	for _, a := range start.Attr {
		switch a.Name.Local {
		case "number":
			m.Number = a.Value
		case "implicit":
			m.Implicit = a.Value
		}
	}
	for {
		token, err := d.Token()
		if err != nil {
			return err
		}
		switch t := token.(type) {
		case xml.EndElement:
			return nil
		case xml.StartElement:
			item := itemOf(t.Name.Local)
			if item == nil {
				if err := d.Skip(); err != nil {
					return err
				}
				continue
			}
			if err := d.DecodeElement(item, &t); err != nil {
				return err
			}
			m.Items = append(m.Items, item)
		}
	}
}

// moved goes back or forward in a bar.
type moved struct {
	XMLName  xml.Name
	Duration int `xml:"duration"`
}

// said is a direction as it is read: every kind in it.
type said struct {
	XMLName   xml.Name    `xml:"direction"`
	Placement string      `xml:"placement,attr"`
	Rehearsal []string    `xml:"direction-type>rehearsal"`
	Words     []string    `xml:"direction-type>words"`
	Segno     *empty      `xml:"direction-type>segno"`
	Coda      *empty      `xml:"direction-type>coda"`
	Metronome *metronome  `xml:"direction-type>metronome"`
	Sound     *soundTempo `xml:"sound"`
}

func itemOf(name string) any {
	switch name {
	case "attributes":
		return &attributes{}
	case "note":
		return &note{}
	case "harmony":
		return &harmony{}
	case "direction":
		return &said{}
	case "barline":
		return &barline{}
	case "sound":
		return &soundTempo{}
	case "backup", "forward":
		return &moved{}
	}
	return nil
}
