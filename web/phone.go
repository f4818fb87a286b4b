package web

import (
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/home"
	"arplin/teach/phone"
)

// phoneRoutes are those of a student's own page: a second principal beside the teacher. A link is all that
// opens it; there is no session, no cookie and no form token, and no teacher's route knows it.
func (s *server) phoneRoutes(app *fiber.App) {
	app.Get("/p/worker.js", phoneWorker)
	app.Use("/p/:secret", phoneHeaders, s.findPhone, s.limitGuesses(), s.requirePhone)
	app.Get("/p/:secret", s.phoneToday)
	app.Post("/p/:secret/log", s.phoneLog)
	app.Post("/p/:secret/takes", s.limitTakes(), s.phoneTake)
	app.Post("/p/:secret/takes/back", s.phoneTakeBack)
	app.Get("/p/:secret/score/:ladder/:step", s.phoneScore)
	app.Get("/p/:secret/drill/:id", s.phoneDrill)
	app.Get("/p/:secret/tones", s.tone)
	app.Use("/p", func(fiber.Ctx) error { return fiber.ErrNotFound }) // nothing of a teacher's is asked
}

// phonePolicy is the policy of a student's page: the judge of taps is WebAssembly, and a worker keeps the
// page without a net.
var phonePolicy = strings.Replace(policy, "script-src 'self'", "script-src 'self' 'wasm-unsafe-eval'", 1) + "; worker-src 'self'"

func phoneHeaders(c fiber.Ctx) error {
	c.Set(fiber.HeaderContentSecurityPolicy, phonePolicy)
	c.Set(fiber.HeaderReferrerPolicy, "no-referrer")
	c.Set("X-Robots-Tag", "noindex, nofollow")
	c.Set(fiber.HeaderCacheControl, "private, no-cache")
	return c.Next()
}

type phoneKey struct{}

// phoneOf is whose phone asks; requirePhone has seen to it.
func phoneOf(c fiber.Ctx) store.Phone {
	if of := fiber.Locals[*store.Phone](c, phoneKey{}); of != nil {
		return *of
	}
	return store.Phone{}
}

// findPhone finds whose phone a link is on.
func (s *server) findPhone(c fiber.Ctx) error {
	of, err := s.Home.Whose(c.Context(), c.Params("secret"), time.Now())
	if err != nil && !isNotFound(err) {
		return err
	}
	if err == nil {
		fiber.Locals[*store.Phone](c, phoneKey{}, &of)
	}
	return c.Next()
}

// limitGuesses bounds what a network tries of links that open nothing. One that opens counts nothing and is
// never refused: a school shares a network.
func (s *server) limitGuesses() fiber.Handler {
	limited := s.limit(networkTries*s.tries(), func(c fiber.Ctx) string { return "phone-network-" + digest(network(s.proxies.address(c))) })
	return func(c fiber.Ctx) error {
		if phoneOf(c).Student != 0 {
			return c.Next()
		}
		return limited(c)
	}
}

type gonePage struct {
	Why string
}

// requirePhone lets nobody in without a link that opens.
func (s *server) requirePhone(c fiber.Ctx) error {
	if phoneOf(c).Student != 0 {
		return c.Next()
	}
	if c.Path() != "/p/"+c.Params("secret") {
		return fiber.ErrNotFound
	}
	c.Status(fiber.StatusNotFound)
	return c.Render("phone_gone", gonePage{"It has ended, was replaced, or is mistyped. Ask your teacher for a new one."}, "")
}

type phonePage struct {
	phone.Today
	Link    string
	Week    string // the days and what has arrived, for the script
	Words   []practice.WordLine
	Version string
	Takes   bool // a take can be sent to the teacher
	Rest    int  // minutes after which hands rest
}

// phoneToday is a student's page.
func (s *server) phoneToday(c fiber.Ctx) error {
	d, err := s.Phone.Load(c.Context(), phoneOf(c), time.Now())
	if err != nil {
		return err
	}
	week, err := json.Marshal(struct {
		Days []phone.Day  `json:"days"`
		Sent []phone.Sent `json:"sent"`
		Day  int          `json:"day"`
		Made int64        `json:"made"`
	}{d.Days, d.Sent, d.Day, d.Made.UnixMilli()})
	if err != nil {
		return fmt.Errorf("a student's week: %w", err)
	}
	return c.Render("phone", phonePage{d, "/p/" + c.Params("secret"), string(week), practice.HomeWords, version, phoneOf(c).Takes, practice.LongestPlay}, "")
}

// phoneLog keeps what was played at home. Whatever is wrong is a sentence, and what can be kept is.
func (s *server) phoneLog(c fiber.Ctx) error {
	var b home.Batch
	if err := json.Unmarshal(c.Body(), &b); err != nil {
		return c.Status(fiber.StatusBadRequest).JSON(whyNot{"This couldn’t be read. What you played is kept on this phone."})
	}
	taken, err := s.Home.Take(c.Context(), phoneOf(c), b, time.Now())
	var refusal *answer.Refusal
	if errors.As(err, &refusal) {
		return c.Status(fiber.StatusUnprocessableEntity).JSON(whyNot{answer.Sentence(refusal.Clause)})
	}
	if err != nil {
		return err
	}
	return c.JSON(taken)
}

// whyNot is why a script was refused, in a sentence.
type whyNot struct {
	Why string `json:"why"`
}

// phoneScore is a step of the student's own class, as the student plays it.
func (s *server) phoneScore(c fiber.Ctx) error {
	of := phoneOf(c)
	id, _ := strconv.ParseInt(c.Params("ladder"), 10, 64) // none is nobody's
	step, _ := strconv.Atoi(c.Params("step"))
	at, err := s.People.Class(c.Context(), of.Teacher, of.Class)
	if err != nil {
		return err
	}
	l, err := s.Ladders.Load(c.Context(), of.Teacher, at, ref.Ladder(id))
	if err == nil && l.ClassID != of.Class {
		err = store.ErrNotFound
	}
	if err != nil {
		return err
	}
	ask := scoreAsk(c)
	ask.Student = of.Student
	score, err := l.StepScore(ladder.StepID(step), ask)
	return sendScore(c, score, err)
}

// phoneDrill is an exercise of a drill on the student's week.
func (s *server) phoneDrill(c fiber.Ctx) error {
	of := phoneOf(c)
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	at, err := s.People.Class(c.Context(), of.Teacher, of.Class)
	if err != nil {
		return err
	}
	d, err := s.Ladders.WeekDrill(c.Context(), of.Teacher, at, id, time.Now())
	if err == nil && d.For.ID != of.Student {
		err = store.ErrNotFound
	}
	if err != nil {
		return err
	}
	score, err := d.Score(fiber.Query[int](c, "exercise"), scoreAsk(c))
	return sendScore(c, score, err)
}

// phoneWorker is what keeps the page without a net: it has to stand where the pages do.
func phoneWorker(c fiber.Ctx) error {
	script, err := staticFiles.ReadFile("static/js/phone-worker.js")
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "text/javascript; charset=utf-8")
	c.Set(fiber.HeaderCacheControl, "no-cache")
	return c.Send(append([]byte("const version = "+strconv.Quote(version)+";\n"), script...))
}
