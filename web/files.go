package web

import (
	"mime"
	"slices"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/core/ladder/station"
	"arplin/core/played"
	"arplin/draw"
	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/files"
	"arplin/teach/songs"
)

// songFile gives a song in an open format, with a pattern or a station of its tune on it.
func (s *server) songFile(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	p, err := s.Songs.Line(c.Context(), who(c), class(c), id, c.Query("instrument"), c.Query("pattern"), station.ID(c.Query("station")))
	return sendPiece(c, p, err)
}

// patternFile gives a pattern over the chords of its page in an open format.
func (s *server) patternFile(c fiber.Ctx) error {
	p, err := s.Songs.PatternLine(c.Context(), who(c), class(c), c.Params("ref"), c.Query("instrument"))
	return sendPiece(c, p, err)
}

// stepFile gives a step of a ladder on its song in an open format.
func (s *server) stepFile(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	p, err := l.StepLine(ladder.StepID(fiber.Params[int](c, "step")), c.Query("instrument"))
	return sendPiece(c, p, err)
}

// sendPiece gives what is played as a file of the format that is asked for.
func sendPiece(c fiber.Ctx, p played.Line, err error) error {
	if says, ok := refusal(err); ok {
		return fiber.NewError(fiber.StatusUnprocessableEntity, says)
	}
	if err != nil {
		return err
	}
	as := files.Format(c.Query("as"))
	name, kind := p.Song.Title, "image/svg+xml"
	var data []byte
	if as == files.SVGStrip {
		name += ".svg"
		data, err = stripFile(p, max(1, fiber.Query[int](c, "bar")))
	} else if i := slices.IndexFunc(files.Formats, func(f files.FormatOf) bool { return f.Format == as }); i >= 0 {
		name, kind = name+files.Formats[i].Ending, files.Formats[i].Type
		data, err = files.Write(p, as)
	} else {
		return fiber.ErrNotFound
	}
	if says, ok := refusal(err); ok {
		return fiber.NewError(fiber.StatusUnprocessableEntity, says)
	}
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, kind)
	c.Set(fiber.HeaderContentDisposition, mime.FormatMediaType("attachment", map[string]string{"filename": letters.FileName(name)}))
	return c.Send(data)
}

func stripFile(p played.Line, bar int) ([]byte, error) {
	svg, err := songs.BarStrip(p, bar)
	if err != nil {
		return nil, err
	}
	styles, err := MarkStyles()
	return draw.Standalone(svg, styles), err
}

type tabPage struct {
	Page
	Text   string
	Figure *files.TabFigure // what was read; nil for nothing yet
	Name   string
}

// tabPage is where a tablature is pasted.
func (s *server) tabPage(c fiber.Ctx) error {
	return c.Render("tab", tabPage{Page: page(c, "Import tablature", "patterns")})
}

// readTab shows the figure of what was pasted or sent.
func (s *server) readTab(c fiber.Ctx) error {
	text := c.FormValue("text")
	if data, err := sentFile(c); err != nil || len(data) > 0 {
		switch {
		case err != nil:
		case files.IsMIDI(data):
			text, err = files.TabOfMIDI(data, class(c))
		default:
			text, err = sentText(c)
		}
		if says, ok := refusal(err); ok {
			p := tabPage{Page: page(c, "Import tablature", "patterns"), Text: c.FormValue("text")}
			p.Problem = says
			return render(c, "tab", "tab", p.Page, p)
		}
		if err != nil {
			return err
		}
	}
	return s.showTab(c, text, "")
}

func (s *server) showTab(c fiber.Ctx, text, problem string) error {
	p := tabPage{Page: page(c, "Import tablature", "patterns"), Text: text, Name: c.FormValue("name")}
	f, err := files.ReadTab(text, class(c), c.FormValue("instrument"), c.FormValue("meter"))
	says, refused := refusal(err)
	switch {
	case refused:
		p.Problem = says
	case err != nil:
		return err
	default:
		p.Figure, p.Problem = &f, problem
	}
	return render(c, "tab", "tab", p.Page, p)
}

// keepTab stores the figure that was read: as a pattern, or with its chords as a song with a ladder.
func (s *server) keepTab(c fiber.Ctx) error {
	text := c.FormValue("text")
	f, err := files.ReadTab(text, class(c), c.FormValue("instrument"), c.FormValue("meter"))
	if says, ok := refusal(err); ok {
		return s.showTab(c, text, says)
	}
	if err != nil {
		return err
	}
	keep := files.KeepTab{Title: c.FormValue("name"), Ladder: c.FormValue("do") == "ladder"}
	if keep.Ladder && !class(c).Has {
		return seeOther(c, "/class")
	}
	path, err := s.Files.KeepTab(c.Context(), who(c), class(c), f, keep)
	if says, ok := refusal(err); ok {
		return s.showTab(c, text, says)
	}
	if err != nil {
		return err
	}
	return goTo(c, path)
}
