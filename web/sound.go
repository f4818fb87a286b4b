package web

import (
	"archive/zip"
	"bufio"
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"log/slog"
	"mime"
	"slices"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/ladder"
	"arplin/letters"
	"arplin/sound"
	"arplin/store/ref"
	"arplin/teach/ladders"
	"arplin/teach/songs"
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
	case err != nil || midi < sound.Lowest || midi > sound.Highest || !slices.Contains(sound.Families, of) || !slices.Contains(sound.Touches, touch):
		return fiber.ErrNotFound
	default:
		samples = sound.Tone{Strings: of, Touch: touch, Hertz: sound.Hertz(midi)}.Samples()
	}
	c.Set(fiber.HeaderContentType, "audio/wav")
	return c.Send(sound.WAV(samples))
}

func sendScore(c fiber.Ctx, score songs.Score, err error) error {
	if says, ok := refusal(err); ok {
		return fiber.NewError(fiber.StatusUnprocessableEntity, says)
	}
	if err != nil {
		return err
	}
	if c.Query("as") == "wav" {
		return sendAlong(c, score)
	}
	if c.Query("as") == "zip" {
		return sendZip(c, score.Title, func(ctx context.Context, z *zip.Writer, sent func() error) error {
			return songs.ZipAlongs(ctx, z, score.Alongs(), sent)
		})
	}
	return c.JSON(score)
}

// zips are the zips that are made at the same time: each renders its files one after another.
var zips = make(chan struct{}, 4)

// How long a zip waits for its place, and how long it may take: minutes, on a phone's line.
const (
	zipWait = 3 * time.Second
	zipTime = 10 * time.Minute
)

// sendZip writes a zip while it is sent: play-alongs are large, and one is held at a time. It ends
// when nobody reads it any more.
func sendZip(c fiber.Ctx, name string, write func(ctx context.Context, z *zip.Writer, sent func() error) error) error {
	select {
	case zips <- struct{}{}:
	case <-time.After(zipWait):
		return refuse("other downloads are being made right now. Try again in a minute")
	}
	c.Set(fiber.HeaderContentType, "application/zip")
	c.Set(fiber.HeaderContentDisposition, mime.FormatMediaType("attachment", map[string]string{"filename": letters.FileName(name) + ".zip"}))
	path := c.Path() // the name of a child is nothing for a log
	return c.SendStreamWriter(func(w *bufio.Writer) {
		defer func() { <-zips }()
		ctx, cancel := context.WithTimeout(context.Background(), zipTime)
		defer cancel()
		z := zip.NewWriter(w)
		err := write(ctx, z, w.Flush)
		if err == nil {
			err = z.Close()
		}
		if err != nil { // what was sent is no whole zip, and its reader says so
			slog.Info("a zip was not sent to its end", "path", path, "err", err)
		}
	})
}

// sendAlong gives a score as a file to play along with.
func sendAlong(c fiber.Ctx, score songs.Score) error {
	p := songs.PlayAlong{Tempo: formID[int](c, "tempo"), Click: c.Query("click") == "yes", CountIn: c.Query("countin") == "yes"}
	for _, by := range []bind.Hand{bind.ByThumb, bind.ByFingers, bind.ByStrum, bind.ByMelody} {
		if c.Query(string(by)) == "no" {
			p.Without = append(p.Without, by)
		}
	}
	wav, err := score.WAV(c.Context(), p)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "audio/wav")
	name := fmt.Sprintf("%s at %d.wav", letters.FileName(score.Title), cmp.Or(p.Tempo, score.Slow))
	c.Set(fiber.HeaderContentDisposition, mime.FormatMediaType("attachment", map[string]string{"filename": name}))
	return c.Send(wav)
}

// scoreAsk is how a score is wanted. A feel that nobody knows is none.
func scoreAsk(c fiber.Ctx) songs.ScoreAsk {
	ask := songs.ScoreAsk{Over: c.Query("over"), Instrument: c.Query("instrument"), Student: formID[ref.Student](c, "student"), Chords: c.Query("chords") == "yes" || c.Query("as") == "zip"}
	if feel := songs.Feel(c.Query("feel")); feel == songs.Straight || feel == songs.Swung {
		ask.Feel = feel
	}
	return ask
}

// figureScore is a figure that stands on the bench, or beside one as a neighbour.
func (s *server) figureScore(c fiber.Ctx) error {
	score, err := s.Songs.NotationScore(class(c), c.Query("notation"), scoreAsk(c))
	return sendScore(c, score, err)
}

// drillScore is an exercise of a drill that is being made.
func (s *server) drillScore(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	d, err := s.Ladders.LoadDrill(c.Context(), who(c), class(c), id, drillAsk(c), time.Now())
	return sendExercise(c, d, err)
}

// weekDrillScore is an exercise of a drill on a student's week.
func (s *server) weekDrillScore(c fiber.Ctx) error {
	id, err := pathID[ref.Drill](c)
	if err != nil {
		return err
	}
	d, err := s.Ladders.WeekDrill(c.Context(), who(c), class(c), id, time.Now())
	return sendExercise(c, d, err)
}

func sendExercise(c fiber.Ctx, d ladders.Drill, err error) error {
	if err != nil {
		return err
	}
	score, err := d.Score(fiber.Query[int](c, "exercise"), scoreAsk(c))
	return sendScore(c, score, err)
}

func (s *server) patternScore(c fiber.Ctx) error {
	score, err := s.Songs.PatternScore(c.Context(), who(c), class(c), c.Params("ref"), scoreAsk(c))
	return sendScore(c, score, err)
}

func (s *server) songScore(c fiber.Ctx) error {
	id, err := pathID[ref.Song](c)
	if err != nil {
		return err
	}
	score, err := s.Songs.Score(c.Context(), who(c), class(c), id, c.Query("pattern"), scoreAsk(c))
	return sendScore(c, score, err)
}

func (s *server) stepScore(c fiber.Ctx) error {
	l, err := s.loadLadder(c)
	if err != nil {
		return err
	}
	id, _ := strconv.Atoi(c.Params("step")) // none is on no ladder
	score, err := l.StepScore(ladder.StepID(id), scoreAsk(c))
	return sendScore(c, score, err)
}
