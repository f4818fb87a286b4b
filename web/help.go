package web

import (
	"bytes"
	"fmt"
	"html/template"
	"net/url"
	"path"
	"slices"
	"strings"
	"sync"

	"github.com/gofiber/fiber/v3"
	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"

	"arplin/docs"
	"arplin/letters"
	"arplin/store"
)

// helpPage is a page of Help: what can be done in a view, written for a teacher.
type helpPage struct {
	Page
	Topic  topic
	Topics []topic
}

// topic is a page of docs/help.
type topic struct {
	ID, Title string
	HTML      template.HTML
	text      string // folded, to be searched
}

// topicOrder is the order in which somebody reads them.
var topicOrder = []string{"start", "desk", "lesson", "term", "songs", "patterns", "ladders", "melody", "class", "phones", "sheets", "play", "files", "keys"}

// topicOf is the page of Help for a view.
var topicOf = map[string]string{"desk": "desk", "lesson": "lesson", "term": "term", "songs": "songs", "patterns": "patterns", "ladders": "ladders", "class": "class", "tune": "play", "files": "files"}

// topics reads the pages once.
var topics = sync.OnceValues(func() (list []topic, err error) {
	md := goldmark.New(goldmark.WithExtensions(extension.Table))
	for _, id := range topicOrder {
		text, err := docs.Help.ReadFile("help/" + id + ".md")
		if err != nil {
			return nil, fmt.Errorf("help: %w", err)
		}
		var out bytes.Buffer
		if err := md.Convert(text, &out); err != nil {
			return nil, fmt.Errorf("help %s: %w", id, err)
		}
		title, _, _ := strings.Cut(strings.TrimPrefix(string(text), "# "), "\n")
		html := strings.NewReplacer(`<img src="`, `<img loading="lazy" class="helpshot" src="/help/pictures/`, "<table>", `<table class="table">`).Replace(out.String())
		list = append(list, topic{id, title, template.HTML(html), letters.Fold(string(text))}) // of our own files
	}
	return list, nil
})

// help shows one page of Help; a piece of it beside the view that it is about.
func (s *server) help(c fiber.Ctx) error {
	list, err := topics()
	if err != nil {
		return err
	}
	id := c.Params("topic", "start")
	at := slices.IndexFunc(list, func(t topic) bool { return t.ID == id })
	if at < 0 {
		return fiber.ErrNotFound
	}
	p := helpPage{Page: page(c, "Help: "+list[at].Title, "help"), Topic: list[at], Topics: list}
	return render(c, "help", "help_topic", p.Page, p)
}

// helpPicture sends a picture of the program.
func helpPicture(c fiber.Ctx) error {
	file, err := docs.Pictures.ReadFile("screenshots/" + path.Base(c.Params("name")))
	if err != nil {
		return fiber.ErrNotFound
	}
	c.Set(fiber.HeaderCacheControl, "private, max-age=86400")
	c.Type("png")
	return c.Send(file)
}

// found is what is found under a word, of one kind.
type found struct {
	Kind  string
	Items []foundItem
}

type foundItem struct{ Name, About, URL string }

type findPage struct {
	Page
	Words string
	Found []found
}

// mostFound is how many of a kind are listed.
const mostFound = 6

// views are the pages that are found by their names, and by what a teacher would call them.
var viewsFound = []struct{ name, url, words string }{
	{"Desk", "/", "log tempo decide"}, {"Lesson", "/lesson", "plan minutes groups"}, {"Live lesson", "/lesson/live", "room projector"}, {"Term", "/term", "weeks concert calendar"},
	{"Songs", "/songs", "chord sheet"}, {"Add a song", "/songs/new", "paste import"}, {"Patterns", "/patterns", "picking strumming"}, {"Bench", "/bench", "new pattern notation"},
	{"Import tablature", "/patterns/read", "tab midi"}, {"Ladders", "/ladders", "steps"}, {"Class", "/class", "students settings playing style"}, {"What counts as hard", "/class/weights", "levels factors weights"},
	{"Pattern series", "/term/series", "progression"}, {"Tuner", "/tune", "tune microphone"}, {"Archive", "/archive", "restore delete"}, {"Export and import", "/files", "backup file"}, {"Account", "/account", "password settings"},
}

// findAll looks a word up in everything: songs, patterns, people, ladders, pages, help.
func (s *server) findAll(c fiber.Ctx) error {
	p := findPage{Page: page(c, "Search", ""), Words: strings.Join(strings.Fields(c.Query("q")), " ")}
	if p.Words != "" {
		var err error
		if p.Found, err = s.found(c, p.Words); err != nil {
			return err
		}
	}
	return render(c, "find", "found", p.Page, p)
}

func (s *server) found(c fiber.Ctx, words string) (list []found, err error) {
	add := func(kind string, items []foundItem) {
		if len(items) > 0 {
			list = append(list, found{kind, items[:min(len(items), mostFound)]})
		}
	}
	find := store.Find{Words: words}
	people, err := s.People.Find(c.Context(), who(c), find)
	if err != nil {
		return nil, err
	}
	var items []foundItem
	for _, st := range people {
		items = append(items, foundItem{st.Name, st.Class, fmt.Sprintf("/students/%d", st.ID)})
	}
	add("People", items)
	songs, _, err := s.Songs.List(c.Context(), who(c), find)
	if err != nil {
		return nil, err
	}
	items = nil
	for _, sg := range songs {
		items = append(items, foundItem{sg.Title, "", fmt.Sprintf("/songs/%d", sg.ID)})
	}
	add("Songs", items)
	if class(c).Has {
		ladders, _, err := s.Ladders.List(c.Context(), who(c), class(c), find)
		if err != nil {
			return nil, err
		}
		items = nil
		for _, l := range ladders {
			items = append(items, foundItem{l.SongTitle, l.PatternName, fmt.Sprintf("/ladders/%d", l.ID)})
		}
		add("Ladders", items)
	}
	patterns, err := s.Patterns.Named(c.Context(), who(c), words)
	if err != nil {
		return nil, err
	}
	items = nil
	for _, e := range patterns {
		items = append(items, foundItem{e.Name, e.Pattern.Meter.String(), "/patterns/" + url.PathEscape(e.ID)})
	}
	add("Patterns", items)
	items = nil
	for _, v := range viewsFound {
		if hasWords(letters.Fold(v.name+" "+v.words), words) {
			items = append(items, foundItem{v.name, "", v.url})
		}
	}
	add("Pages", items)
	all, err := topics()
	if err != nil {
		return nil, err
	}
	items = nil
	for _, t := range all {
		if hasWords(t.text, words) {
			items = append(items, foundItem{t.Title, "", "/help/" + t.ID})
		}
	}
	add("Help", items)
	return list, nil
}

// hasWords reports a text with each of some words in it.
func hasWords(folded, words string) bool {
	for _, word := range strings.Fields(letters.Fold(words)) {
		if !strings.Contains(folded, word) {
			return false
		}
	}
	return true
}
