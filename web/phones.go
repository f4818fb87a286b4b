package web

import (
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/home"
	"arplin/teach/people"
)

// phonesPage is the register of a class's links.
type phonesPage struct {
	Page
	Links []home.Link
	Ends  string // the day on which most of them end
	Base  string // of this site
	Takes bool   // may be sent from phones
}

// On counts the links that open.
func (p phonesPage) On() (n int) {
	for _, l := range p.Links {
		if l.Secret != "" {
			n++
		}
	}
	return n
}

// phones lists the links of the class, and ends, renews and revokes them.
func (s *server) phones(c fiber.Ctx) error { return s.showPhones(c, Page{}) }

func (s *server) showPhones(c fiber.Ctx, says Page) error {
	if !class(c).Has {
		return goTo(c, "/class")
	}
	p := phonesPage{Page: page(c, "Students’ phones", "class"), Base: c.BaseURL()}
	if says.Note.Text != "" {
		p.Note = says.Note
	}
	p.Problem = says.Problem
	var err error
	if p.Links, err = s.Home.Links(c.Context(), who(c), class(c), time.Now()); err != nil {
		return err
	}
	if p.Takes, err = s.Home.Takes(c.Context(), who(c), class(c)); err != nil {
		return err
	}
	for _, l := range p.Links {
		if day := l.Ends.Format(time.DateOnly); !l.Revoked && day > p.Ends {
			p.Ends = day
		}
	}
	return render(c, "phones", "phones", p.Page, p)
}

// changePhones does one thing to the links of a class, or of one student.
func (s *server) changePhones(c fiber.Ctx) error {
	of, err := s.deskClass(c)
	if err != nil {
		return err
	}
	now, says := time.Now(), ""
	switch c.FormValue("do") {
	case "renew":
		err, says = s.Home.Renew(c.Context(), who(c), of, 0, now), "Everyone has a new link. The old ones don’t open any more: print the sheets or slips again."
	case "revoke":
		err, says = s.Home.Revoke(c.Context(), who(c), of, 0), "All links are off. Sheets don’t carry one until you give new links."
	case "end":
		err, says = s.Home.End(c.Context(), who(c), of, c.FormValue("ends"), now), "The links end on that day."
	case "takes":
		on := c.FormValue("takes") == "yes"
		if err, says = s.Home.LetTakes(c.Context(), who(c), of, on), "Phones send no recordings any more. Those you have stay."; on {
			says = "Students can send you a take now. It stands on their page here, marked “from home”."
		}
	default:
		return refuse("choose what to do with the links")
	}
	return s.afterPhones(c, err, says, "/class/phones")
}

type studentPhonePage struct {
	Page
	Link home.Link
	Base string // of this site
}

// studentPhone is the link of one student.
func (s *server) studentPhone(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	of, st, err := s.Home.Of(c.Context(), who(c), class(c), id)
	if err != nil {
		return err
	}
	p := studentPhonePage{Page: page(c, st.Name+"’s phone", "class"), Base: c.BaseURL()}
	if p.Link, err = s.Home.LinkOf(c.Context(), who(c), of, id, time.Now()); err != nil {
		return err
	}
	if p.Link.Student == 0 { // one who has left has none
		return store.ErrNotFound
	}
	return render(c, "student_phone", "student_phone", p.Page, p)
}

// changePhone renews or revokes the link of one student.
func (s *server) changePhone(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	of, st, err := s.Home.Of(c.Context(), who(c), class(c), id)
	if err != nil {
		return err
	}
	says := st.Name + "’s link is off. The phone shows nothing new any more."
	if c.FormValue("do") == "renew" {
		err, says = s.Home.Renew(c.Context(), who(c), of, st.ID, time.Now()), st.Name+" has a new link. The old one doesn’t open any more."
	} else {
		err = s.Home.Revoke(c.Context(), who(c), of, st.ID)
	}
	back := "/class/phones"
	if c.FormValue("back") != "" {
		back = backTo(c)
	}
	return s.afterPhones(c, err, says, back)
}

func (s *server) afterPhones(c fiber.Ctx, err error, says, back string) error {
	if problem, ok := refusal(err); ok {
		return s.showPhones(c, Page{Problem: problem})
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: says})
	return goTo(c, back)
}

// phoneWay is a link on paper: a code for the camera, and the address to type.
type phoneWay struct {
	Name    string
	Code    draw.SVG
	Address string
}

// wayOf is a link on paper; nil for one that opens nothing.
func wayOf(c fiber.Ctx, l home.Link) (*phoneWay, error) {
	if l.Secret == "" {
		return nil, nil
	}
	code, err := draw.QR(c.BaseURL() + l.Path())
	if err != nil {
		return nil, err
	}
	return &phoneWay{l.Name, code, c.Host() + l.Path()}, nil
}

// address is what of a way is compared; empty for none.
func (w *phoneWay) address() string {
	if w == nil {
		return ""
	}
	return w.Address
}

// waysTo are the ways to the own pages of a class's students, for their sheets.
func (s *server) waysTo(c fiber.Ctx, of people.Class) (map[ref.Student]*phoneWay, error) {
	links, err := s.Home.Links(c.Context(), who(c), of, time.Now())
	if err != nil {
		return nil, err
	}
	ways := map[ref.Student]*phoneWay{}
	for _, l := range links {
		if ways[l.Student], err = wayOf(c, l); err != nil {
			return nil, err
		}
	}
	return ways, nil
}

// wayTo is the way to one student's page.
func (s *server) wayTo(c fiber.Ctx, of people.Class, id ref.Student) (*phoneWay, error) {
	l, err := s.Home.LinkOf(c.Context(), who(c), of, id, time.Now())
	if err != nil {
		return nil, err
	}
	return wayOf(c, l)
}

type slipsPage struct {
	Page
	Slips []phoneWay
	Ends  time.Time
}

// slips are the links of a class on paper, to be cut apart.
func (s *server) slips(c fiber.Ctx) error {
	links, err := s.Home.Links(c.Context(), who(c), class(c), time.Now())
	if err != nil {
		return err
	}
	p := slipsPage{Page: page(c, "Slips with links", "class")}
	for _, l := range links {
		way, err := wayOf(c, l)
		if err != nil {
			return err
		}
		if way != nil {
			p.Slips, p.Ends = append(p.Slips, *way), l.Ends
		}
	}
	return c.Render("phone_slips", p)
}
