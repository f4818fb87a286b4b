package web

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"fmt"
	"html/template"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// weekZip is a student's week to take home: the page with its play-alongs.
func (s *server) weekZip(c fiber.Ctx) error {
	id, err := pathID[ref.Student](c)
	if err != nil {
		return err
	}
	w, err := s.Lesson.LoadStudentWeek(c.Context(), who(c), class(c), id, time.Now())
	if err != nil {
		return err
	}
	alongs, err := w.Alongs()
	if err != nil {
		return err
	}
	styles, err := inlineStyles()
	if err != nil {
		return err
	}
	var sheet bytes.Buffer
	home := homePage{studentWeekPage{page(c, w.Name+": this week", "class"), w, people.Care, nil}, styles}
	if err := c.App().Config().Views.Render(&sheet, "week_home", home); err != nil {
		return fmt.Errorf("the week to take home: %w", err)
	}
	return sendZip(c, w.Name+", this week", func(ctx context.Context, z *zip.Writer, sent func() error) error {
		page, err := z.Create(letters.FileName(w.Name+", this week") + ".html")
		if err == nil {
			_, err = page.Write(sheet.Bytes())
		}
		if err == nil {
			err = errors.Join(z.Flush(), sent())
		}
		if err != nil {
			return err
		}
		return songs.ZipAlongs(ctx, z, alongs, sent)
	})
}

// homePage is a page that stands by itself.
type homePage struct {
	studentWeekPage
	Styles template.CSS
}

// inlineStyles are the styles that a page brings along where it has no server.
func inlineStyles() (template.CSS, error) {
	var all []byte
	for _, name := range everywhere {
		css, err := staticFiles.ReadFile("static/" + name + ".css")
		if err != nil {
			return "", err
		}
		all = append(all, css...)
	}
	return template.CSS(all), nil
}

// MarkStyles are the styles of strips, lanes and shapes, for a picture that leaves the page.
func MarkStyles() (string, error) {
	css, err := staticFiles.ReadFile("static/marks.css")
	return string(css), err
}
