package web

import (
	"fmt"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/hand"
	"arplin/store"
)

// patternRef is a pattern of the catalogue or the teacher's own, by one name in
// addresses and forms: "common-strum" or "own-12".
type patternRef struct {
	hand.Entry
	OwnID   int64 // 0 for the catalogue
	Version int
}

const ownPrefix = "own-"

func ownRef(p store.Pattern) patternRef {
	feel := "straight"
	if p.Pattern.Swing {
		feel = "swung"
	}
	return patternRef{
		Entry: hand.Entry{ID: fmt.Sprintf("%s%d", ownPrefix, p.ID), Name: p.Name, Notation: p.Pattern.String(), Family: "yours", Feel: feel, Pattern: p.Pattern},
		OwnID: p.ID, Version: p.Version,
	}
}

// findPattern looks a reference up; ErrNotFound for one that is not there.
func (s *server) findPattern(c fiber.Ctx, ref string) (patternRef, error) {
	text, own := strings.CutPrefix(ref, ownPrefix)
	if !own {
		e, ok := hand.ByID(ref)
		if !ok {
			return patternRef{}, store.ErrNotFound
		}
		return patternRef{Entry: e}, nil
	}
	id, err := strconv.ParseInt(text, 10, 64)
	if err != nil {
		return patternRef{}, store.ErrNotFound
	}
	p, err := s.Store.Pattern(c.Context(), teacherID(c), id)
	return ownRef(p), err
}

// patternsIn lists the teacher's own patterns and the catalogue's in a meter.
func (s *server) patternsIn(c fiber.Ctx, meter hand.Meter) ([]hand.Entry, error) {
	own, err := s.Store.Patterns(c.Context(), teacherID(c))
	if err != nil {
		return nil, err
	}
	var list []hand.Entry
	for _, p := range own {
		if p.Pattern.Meter == meter {
			list = append(list, ownRef(p).Entry)
		}
	}
	return append(list, hand.InMeter(meter)...), nil
}
