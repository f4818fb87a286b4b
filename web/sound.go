package web

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"mime"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/ladder"
	"arplin/sound"
	"arplin/store"
	"arplin/teach"
)

// tone gives a tone as WAV. A tone is the same for ever, so the browser keeps it; another
// version of the program has another tag.
func (s *server) tone(c fiber.Ctx) error {
	of, as := sound.Strings(c.Query("of")), c.Query("as")
	midi, err := strconv.Atoi(c.Query("midi"))
	var samples []float64
	tag := sha256.Sum256([]byte(version + string(c.Request().URI().QueryString())))
	c.Set(fiber.HeaderETag, `"`+hex.EncodeToString(tag[:12])+`"`)
	c.Set(fiber.HeaderCacheControl, "private, max-age=86400")
	if c.Get(fiber.HeaderIfNoneMatch) == c.GetRespHeader(fiber.HeaderETag) {
		return c.SendStatus(fiber.StatusNotModified)
	}
	switch touch := sound.Touch(as); {
	case as == "click" || as == "first":
		samples = sound.Click(as == "first")
	case as == "knock":
		samples = sound.Knock()
	case err != nil || midi < 21 || midi > 108 || !slices.Contains(sound.Families, of) || !slices.Contains(sound.Touches, touch):
		return fiber.ErrNotFound
	default:
		samples = sound.Tone{Strings: of, Touch: touch, Hertz: sound.Hertz(midi)}.Samples()
	}
	c.Set(fiber.HeaderContentType, "audio/wav")
	return c.Send(sound.WAV(samples))
}

func sendScore(c fiber.Ctx, score teach.Score, err error) error {
	if says, ok := refusal(err); ok {
		return fiber.NewError(fiber.StatusUnprocessableEntity, says)
	}
	if err != nil {
		return err
	}
	if c.Query("as") == "wav" {
		return sendAlong(c, score)
	}
	return c.JSON(score)
}

// rendering are the play-alongs that are made at the same time.
var rendering = make(chan struct{}, 2)

// sendAlong gives a score as a file to play along with.
func sendAlong(c fiber.Ctx, score teach.Score) error {
	p := teach.PlayAlong{Tempo: formID[int](c, "tempo"), Click: c.Query("click") == "yes", CountIn: c.Query("countin") == "yes"}
	for _, by := range []bind.Hand{bind.ByThumb, bind.ByFingers, bind.ByStrum} {
		if c.Query(string(by)) == "no" {
			p.Without = append(p.Without, by)
		}
	}
	select { // each takes some tens of megabytes
	case rendering <- struct{}{}:
		defer func() { <-rendering }()
	case <-c.Context().Done():
		return fiber.NewError(fiber.StatusServiceUnavailable, "Many play-alongs are being made; try again in a moment.")
	}
	wav, err := score.WAV(p)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "audio/wav")
	name := fmt.Sprintf("%s at %d.wav", fileName(score.Title), cmp.Or(p.Tempo, score.Slow))
	c.Set(fiber.HeaderContentDisposition, mime.FormatMediaType("attachment", map[string]string{"filename": name}))
	return c.Send(wav)
}

// fileName is a title that can be a file's name everywhere.
func fileName(title string) string {
	return strings.TrimSpace(strings.Map(func(r rune) rune {
		if strings.ContainsRune(`\/:*?"<>|`, r) || r < ' ' {
			return '-'
		}
		return r
	}, title))
}

func (s *server) patternScore(c fiber.Ctx) error {
	score, err := s.PatternScore(c.Context(), who(c), class(c), c.Params("ref"), c.Query("instrument"))
	return sendScore(c, score, err)
}

func (s *server) songScore(c fiber.Ctx) error {
	id, err := pathID[store.SongID](c)
	if err != nil {
		return err
	}
	score, err := s.SongScore(c.Context(), who(c), class(c), id, c.Query("pattern"), c.Query("instrument"))
	return sendScore(c, score, err)
}

func (s *server) stepScore(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	id, _ := strconv.Atoi(c.Params("step")) // none is on no ladder
	score, err := l.StepScore(ladder.StepID(id), c.Query("instrument"))
	return sendScore(c, score, err)
}
