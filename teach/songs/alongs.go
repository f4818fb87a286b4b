package songs

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/letters"
)

// Along is one play-along of several that go home together.
type Along struct {
	Name  string // of its file
	Score Score  // with the chords to play over
	PlayAlong
}

// The two ways of a play-along: with the figure, to play after, and with chords in its place.
var alongWays = []struct {
	says    string
	without []bind.Hand
}{
	{"", []bind.Hand{bind.ByChords}},
	{", to play over", []bind.Hand{bind.ByThumb, bind.ByFingers, bind.ByStrum, bind.ByMelody}},
}

// AlongsAt are both ways of a score at some tempos, counted in and with the click.
func AlongsAt(name string, s Score, tempos ...int) (list []Along) {
	slices.Sort(tempos)
	for _, tempo := range slices.Compact(tempos) {
		for _, way := range alongWays {
			list = append(list, Along{fmt.Sprintf("%s at %d%s.flac", letters.FileName(name), tempo, way.says), s, PlayAlong{Tempo: tempo, Click: true, CountIn: true, Without: way.without}})
		}
	}
	return list
}

// Alongs are the score slow, medium and at the goal. The score must have its chords.
func (s Score) Alongs() []Along { return AlongsAt(s.Title, s, s.Slow, s.Medium, s.Goal) }

// ZipAlongs renders play-alongs one after another into a zip, and has each sent before the next
// is begun. One that is too long is left out, and a file says so.
func ZipAlongs(ctx context.Context, z *zip.Writer, list []Along, sent func() error) error {
	var left []byte
	for _, a := range list {
		file, err := a.Score.FLAC(ctx, a.PlayAlong)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if err != nil {
			left = fmt.Appendf(left, "%s is not here: %v.\r\n", a.Name, err)
			continue
		}
		if err := zipFile(z, a.Name, file); err != nil {
			return err
		}
		if err := errors.Join(z.Flush(), sent()); err != nil {
			return err
		}
	}
	if left != nil {
		return zipFile(z, "What is not here.txt", left)
	}
	return nil
}

func zipFile(z *zip.Writer, name string, data []byte) error {
	method := zip.Deflate
	if strings.HasSuffix(name, ".flac") { // is small already
		method = zip.Store
	}
	w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: method})
	if err == nil {
		_, err = w.Write(data)
	}
	return err
}
