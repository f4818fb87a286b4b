package web

import (
	"fmt"
	"net/url"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/pattern"
	"arplin/core/pattern/skill"
	"arplin/store/ref"
	"arplin/teach/patterns"
	"arplin/teach/people"
)

type libraryPage struct {
	Page
	patterns.Library
	HandAt []string // the addresses of the ways in, in their order
	MoreAt string   // the address of the next cards; empty for none
}

func readFilter(c fiber.Ctx) patterns.Filter {
	tempo, _ := strconv.Atoi(c.Query("tempo")) // what is none asks for none
	return patterns.Filter{
		Meter: c.Query("meter"), Family: c.Query("family"), Hand: skill.Doing(c.Query("hand")), Feel: c.Query("feel"), Instrument: c.Query("instrument"), Tempo: tempo,
		TwoFingers: c.Query("two") != "", NoPinch: c.Query("pinch") != "", NoSkip: c.Query("skip") != "", Song: formID[ref.Song](c, "song"),
	}
}

func (s *server) patternList(c fiber.Ctx) error {
	p := libraryPage{Page: page(c, "Patterns", "patterns")}
	l, rows, err := s.Patterns.LoadLibrary(c.Context(), who(c), p.Class, readFilter(c), time.Now())
	if err != nil {
		return err
	}
	if unchanged(c, p.Page, rows) {
		return nil
	}
	from := fiber.Query[int](c, "from")
	p.Library = s.Patterns.FillLibrary(l, rows, from)
	for _, hand := range p.Hands { // the other choices stay
		q, err := url.ParseQuery(string(c.Request().URI().QueryString()))
		if err != nil {
			q = url.Values{} // what cannot be read asks for nothing
		}
		q.Del("from")
		if q.Set("hand", string(hand.Doing)); hand.On {
			q.Del("hand")
		}
		p.HandAt = append(p.HandAt, "/patterns?"+q.Encode())
	}
	if p.Next > 0 {
		q := c.Request().URI().QueryArgs()
		q.SetUint("from", p.Next)
		p.MoreAt = "/patterns?" + q.String()
	}
	if from > 0 && isPiece(c) {
		return c.Render("pattern_cards", p, "")
	}
	return c.Render("patterns", p)
}

type patternPage struct {
	Page
	patterns.PatternPage
	Care []string
}

func (s *server) patternPage(c fiber.Ctx) error {
	p := patternPage{Page: page(c, "", "patterns"), Care: people.Care}
	var err error
	if p.PatternPage, err = s.Patterns.Page(c.Context(), who(c), p.Page.Class, c.Params("ref")); err != nil {
		return err
	}
	p.Title = p.Pattern.Name
	if unchanged(c, p.Page, p.Pattern, p.Songs) {
		return nil
	}
	return c.Render("pattern", p)
}

// patternAround is what lies about a pattern, loaded when it is opened.
func (s *server) patternAround(c fiber.Ctx) error {
	of, err := s.Patterns.Pattern(c.Context(), who(c), c.Params("ref"))
	if err != nil {
		return err
	}
	p := struct {
		Page
		Near nearby
	}{Page: page(c, of.Name, "patterns")}
	deep := c.Query("deep") != ""
	if unchanged(c, p.Page, of, deep) {
		return nil
	}
	p.Near = nearby{Neighbours: s.Patterns.AroundPattern(p.Class, of.Entry.Pattern, deep), Of: of.Name, Other: otherDepth("/patterns/"+url.PathEscape(of.ID)+"/around?", deep)}
	return render(c, "pattern_around", "pattern_around", p.Page, p)
}

// putPattern puts a pattern on every section of a song.
func (s *server) putPattern(c fiber.Ctx) error {
	p, err := s.Patterns.Pattern(c.Context(), who(c), c.Params("ref"))
	if err != nil {
		return err
	}
	id := formID[ref.Song](c, "song")
	says, version, err := s.Songs.Put(c.Context(), who(c), id, p.Entry)
	if err != nil {
		return err
	}
	leaveNote(c, Note{says + ".", fmt.Sprintf("/songs/%d/undo", id), version})
	return goTo(c, fmt.Sprintf("/songs/%d", id))
}

type comparePage struct {
	Page
	patterns.Comparison
}

func (s *server) comparePatterns(c fiber.Ctx) error {
	cmp, err := s.Patterns.Compare(c.Context(), who(c), class(c), c.Query("a"), c.Query("b"))
	if err != nil {
		return err
	}
	return c.Render("compare", comparePage{page(c, "Compare", "patterns"), cmp})
}

type levelPage struct {
	Page
	patterns.LevelPage
}

// levelPage opens a level of a list into its parts.
func (s *server) levelPage(c fiber.Ctx) error {
	f, err := pattern.Parse(c.Query("notation"))
	if err != nil {
		return refuse(err.Error())
	}
	p := levelPage{Page: page(c, "Level", "patterns")}
	p.LevelPage, err = s.Patterns.LevelOf(c.Context(), who(c), p.Class, f, formID[ref.Song](c, "song"), c.Query("instrument"))
	if err != nil {
		return err
	}
	return c.Render("level_page", p)
}
