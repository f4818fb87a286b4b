package chordpro

import (
	"regexp"
	"strconv"
	"strings"

	"arplin/core/song"
	"arplin/core/theory"
)

// segment is a chord and the words that follow it up to the next.
type segment struct {
	symbol string
	ticks  int // 0 when it does not say
	words  string
}

// marks are annotations, "[*stop]", that say what a bar is.
type marks struct {
	role   song.Role
	ending int
	empty  bool // no chord stands in it yet
}

var roles = map[string]song.Role{"pickup": song.Pickup, "intro": song.Intro, "short": song.Short, "stop": song.Stop, "end": song.End}

// segments splits text at bracketed chords. An annotation that says nothing about
// the bar stays with the words.
func (r *reader) segments(text string) (list []segment, found marks) {
	word := func(words string) {
		if words = strings.Join(strings.Fields(words), " "); words == "" {
			return
		}
		if n := len(list); n > 0 {
			list[n-1].words = strings.TrimSpace(list[n-1].words + " " + words)
			return
		}
		list = append(list, segment{words: words})
	}
	for text != "" {
		i := strings.IndexByte(text, '[')
		if i < 0 {
			word(text)
			break
		}
		word(text[:i])
		text = text[i:]
		end := strings.IndexByte(text, ']')
		if end < 0 {
			r.problem("a square bracket is not closed: %q", shorten(text))
			word(text)
			break
		}
		inside := strings.TrimSpace(text[1:end])
		text = text[end+1:]
		if note, ok := strings.CutPrefix(inside, "*"); ok {
			word(found.take(note))
			continue
		}
		if inside == "" {
			continue
		}
		if strings.HasSuffix(inside, "!") {
			found.role = song.Stop
		}
		symbol, ticks := r.beats(r.bare(inside))
		list = append(list, segment{symbol: symbol, ticks: ticks})
	}
	return list, found
}

// take notes what an annotation says of the bar; what says nothing of it is given back as
// words.
func (m *marks) take(note string) (words string) {
	note = strings.TrimSpace(note)
	if role, known := roles[strings.ToLower(note)]; known {
		m.role = role
		return ""
	}
	n, isEnding := strings.CutPrefix(note, "ending ")
	if e, err := strconv.Atoi(n); isEnding && err == nil && e >= 1 && e <= song.MaxEnding {
		m.ending = e
		return ""
	}
	switch note {
	case "":
		return ""
	case "no chord yet":
		m.empty = true
		return ""
	}
	return "(" + note + ")"
}

var annotation = regexp.MustCompile(`\[\*([^\]]*)\]`)

// annotations takes them off a bar of chords that stand without brackets.
func (r *reader) annotations(text string) (rest string, found marks, says string) {
	var words []string
	rest = annotation.ReplaceAllStringFunc(text, func(one string) string {
		if word := found.take(one[2 : len(one)-1]); word != "" {
			words = append(words, word)
		}
		return " "
	})
	return rest, found, strings.Join(words, " ")
}

// beats cuts the beats off "Am:2"; they are beats of the time signature.
func (r *reader) beats(s string) (symbol string, ticks int) {
	symbol, beats, found := strings.Cut(s, ":")
	if !found {
		return s, 0
	}
	n, err := strconv.ParseFloat(beats, 64)
	if err != nil || !(n > 0) || n > 64 {
		r.problem("%q is not a number of beats", beats)
		return symbol, 0
	}
	return symbol, int(n*float64(r.beat()) + 0.5)
}

// symbol checks a chord and remembers it; "%" and "." repeat the last one. One
// that cannot be read is kept as it stands.
func (r *reader) symbol(s string) string {
	if (s == "%" || s == "." || s == "/" || s == "") && r.last != "" {
		return r.last
	}
	if song.IsNoChord(s) || s == "%" || s == "" {
		r.last = song.NoChord
		return r.last
	}
	c, err := theory.ParseChord(r.english(s))
	if err != nil {
		r.problem("%s", err)
		r.last = s
		return s
	}
	r.last = c.String()
	return r.last
}

func joinWords(segments []segment) string {
	var words []string
	for _, s := range segments {
		if s.words != "" {
			words = append(words, s.words)
		}
	}
	return strings.Join(words, " ")
}
