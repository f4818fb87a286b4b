package web

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"iter"
	"net"
	"net/http"
	"net/netip"
	"slices"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/realclientip/realclientip-go"

	"arplin/letters"
)

// proxies finds the address of a visitor behind proxies that are trusted. (The package is kept:
// it is small, finished and tested, and takes the right-most address that no trusted proxy added,
// where Fiber takes the left-most, which a visitor can write.)
type proxies struct {
	trusted  []net.IPNet
	strategy realclientip.Strategy
}

func newProxies(list []string) (*proxies, error) {
	if len(list) == 0 {
		return &proxies{}, nil
	}
	trusted, err := realclientip.AddressesAndRangesToIPNets(list...)
	if err != nil {
		return nil, fmt.Errorf("the trusted proxies: %w", err)
	}
	strategy, err := realclientip.NewRightmostTrustedRangeStrategy(fiber.HeaderXForwardedFor, trusted)
	if err != nil {
		return nil, fmt.Errorf("the trusted proxies: %w", err)
	}
	return &proxies{trusted, strategy}, nil
}

// address is the right-most one that no trusted proxy added: what stands left of it
// the visitor may have written. Junk is not believed; then it is the proxy's.
func (p *proxies) address(c fiber.Ctx) string {
	remote := c.RequestCtx().RemoteIP()
	if p.strategy == nil || !p.has(remote) {
		return remote.String()
	}
	header := http.Header{}
	for _, line := range c.Request().Header.PeekAll(fiber.HeaderXForwardedFor) {
		header.Add(fiber.HeaderXForwardedFor, string(line))
	}
	if found := p.strategy.ClientIP(header, remote.String()); found != "" {
		return found
	}
	return remote.String()
}

func (p *proxies) has(ip net.IP) bool {
	for _, n := range p.trusted {
		if n.Contains(ip) {
			return true
		}
	}
	return false
}

// network is what one visitor can easily change the address within.
func network(address string) string {
	ip, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	bits := 24
	if ip = ip.Unmap(); ip.Is6() {
		bits = 56
	}
	prefix, err := ip.Prefix(bits)
	if err != nil {
		return address
	}
	return prefix.String()
}

// patience is how long a request may take. Past it a page says so: a database that
// hangs must not hang the teacher's browser.
const patience = 8 * time.Second

// longPatience is for what stores a whole file, or takes one out again: a long log takes longer
// than a page.
const longPatience = 2 * time.Minute

var takesLong = []string{"/files/look", "/files/take", "/files/undo"}

// inTime gives a request its deadline. It ends before that when the browser goes.
func (s *server) inTime(c fiber.Ctx) error {
	wait := s.patience
	if slices.Contains(takesLong, c.Path()) {
		wait = longPatience
	}
	ctx, cancel := context.WithTimeout(c.Context(), wait)
	defer cancel()
	if c.Method() == fiber.MethodGet { // what stores something goes on: it was asked for
		defer whenGone(c.RequestCtx().Conn(), cancel)()
	}
	c.SetContext(ctx)
	return c.Next()
}

// cleaned is the one door for text from outside: what comes through it is letters.
func cleaned(c fiber.Ctx) error {
	if query := c.Request().URI().QueryArgs(); !isClean(query.All()) {
		clean(query)
	}
	if c.Method() != fiber.MethodPost {
		return c.Next()
	}
	if form, err := c.MultipartForm(); err == nil {
		for _, values := range form.Value {
			for i := range values {
				values[i] = letters.Clean(values[i])
			}
		}
	} else if fields := c.Request().PostArgs(); !isClean(fields.All()) {
		clean(fields)
	}
	return c.Next()
}

func isClean(all iter.Seq2[[]byte, []byte]) bool {
	for key, value := range all {
		if k, v := string(key), string(value); letters.Clean(k) != k || letters.Clean(v) != v {
			return false
		}
	}
	return true
}

// fields is a query or a form.
type fields interface {
	All() iter.Seq2[[]byte, []byte]
	Add(key, value string)
	Reset()
}

func clean(f fields) {
	var list []sentField
	for key, value := range f.All() {
		list = append(list, sentField{letters.Clean(string(key)), letters.Clean(string(value))})
	}
	f.Reset()
	for _, one := range list {
		f.Add(one.Name, one.Value)
	}
}

func digest(s string) string {
	sum := sha256.Sum256([]byte(s))
	return hex.EncodeToString(sum[:12])
}
