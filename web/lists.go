package web

import (
	"net/url"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"arplin/store"
)

// listPages is the search field of a list and the ways to its other pages.
type listPages struct {
	Action, Label string
	Words         string
	Shown         bool   // there is more than one page, or something was looked for
	Earlier       string // address; empty for none
	Later         string
}

// finding reads what of a list is asked for.
func finding(c fiber.Ctx) store.Find {
	page, _ := strconv.Atoi(c.Query("page")) // none is the first
	return store.Find{Words: c.Query("q"), Page: min(max(0, page), 10_000)}
}

func pagesOf(action, label string, f store.Find, more bool) listPages {
	p := listPages{Action: action, Label: label, Words: f.Words, Shown: f.Words != "" || f.Page > 0 || more}
	at := func(page int) string {
		return action + "?" + url.Values{"q": {f.Words}, "page": {strconv.Itoa(page)}}.Encode()
	}
	if f.Page > 0 {
		p.Earlier = at(f.Page - 1)
	}
	if more {
		p.Later = at(f.Page + 1)
	}
	return p
}
