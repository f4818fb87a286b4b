package web

import (
	"fmt"
	"mime"
	"net/url"
	"path/filepath"
	"time"

	"github.com/gofiber/fiber/v3"

	"arplin/format/bundle"
	"arplin/letters"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/files"
)

type filesPage struct {
	Page
	Imports []files.ImportLine
	Taking  *files.Taking // what a file would bring; nil for none
	Name    string        // of the file
	Token   string        // under which it waits
}

// filesPage is where a teacher takes along what is here, and takes in what was taken along.
func (s *server) filesPage(c fiber.Ctx) error {
	return s.showFiles(c, filesPage{Page: page(c, "Export and import", "account")})
}

func (s *server) showFiles(c fiber.Ctx, p filesPage) error {
	var err error
	if p.Imports, err = s.Files.Imports(c.Context(), who(c)); err != nil {
		return err
	}
	return render(c, "files", "files", p.Page, p)
}

// bundleFile gives a class, the library, or everything as one file.
func (s *server) bundleFile(c fiber.Ctx) error {
	take, name := files.Taken{}, "Arplin"
	switch id := formID[ref.Class](c, "class"); {
	case id != 0:
		of, err := s.People.Stored(c.Context(), who(c), id)
		if err != nil {
			return err
		}
		take.Class, name = id, of.Name
	case c.Query("what") == "library":
		take.Songs, name = true, "Songs and patterns"
	}
	return s.sendBundle(c, take, name)
}

// exportAll gives the whole account, also where it is archived.
func (s *server) exportAll(c fiber.Ctx) error { return s.sendBundle(c, files.Taken{}, "Arplin") }

func (s *server) sendBundle(c fiber.Ctx, take files.Taken, name string) error {
	b, err := s.Files.Bundle(c.Context(), who(c), take, time.Now())
	return sendBundle(c, b, name, err)
}

func sendBundle(c fiber.Ctx, b bundle.Bundle, name string, err error) error {
	if err != nil {
		return err
	}
	data, err := bundle.Write(b)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "application/zip")
	name = fmt.Sprintf("%s %s.arplin.zip", name, b.Made.Local().Format(time.DateOnly))
	c.Set(fiber.HeaderContentDisposition, mime.FormatMediaType("attachment", map[string]string{"filename": letters.FileName(name)}))
	return c.Send(data)
}

// bundleSchema is the published schema of what is in a bundle.
func bundleSchema(c fiber.Ctx) error { return c.Type("json", "utf-8").Send(bundle.Schema) }

// lookAtBundle shows what a file would bring; nothing is stored but the file, for a while.
func (s *server) lookAtBundle(c fiber.Ctx) error {
	p := filesPage{Page: page(c, "Export and import", "account")}
	header, err := c.FormFile("file")
	if err != nil || header.Size == 0 {
		p.Problem = "Choose a file first."
		return s.showFiles(c, p)
	}
	data, err := sentFile(c)
	if err != nil {
		return err
	}
	p.Name = letters.Clean(filepath.Base(header.Filename))
	var taking files.Taking
	taking, p.Token, err = s.Files.Look(c.Context(), who(c), p.Name, data)
	if says, ok := refusal(err); ok {
		p.Problem = says
		return s.showFiles(c, p)
	}
	if err != nil {
		return err
	}
	p.Taking = &taking
	return s.showFiles(c, p)
}

// takeIn stores what the file that was looked at brings, once: of four who send the same form
// one has the file.
func (s *server) takeIn(c fiber.Ctx) error {
	p := filesPage{Page: page(c, "Export and import", "account")}
	id, says, there, err := s.Files.TakeInWaiting(c.Context(), who(c), c.FormValue("name"), c.FormValue("token"), time.Now())
	if err == nil && !there {
		p.Problem = "This file was imported already, or you opened it too long ago. Choose it again."
		return s.showFiles(c, p)
	}
	if says, ok := refusal(err); ok {
		p.Problem = says
		return s.showFiles(c, p)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Imported. " + answer.Sentence(says), Undo: "/files/undo?" + url.Values{"import": {fmt.Sprint(id)}}.Encode()})
	return goTo(c, "/files")
}

// undoTakeIn takes an import back.
func (s *server) undoTakeIn(c fiber.Ctx) error {
	err := s.Files.UndoTakeIn(c.Context(), who(c), formID[ref.Import](c, "import"), time.Now())
	if says, ok := refusal(err); ok {
		p := filesPage{Page: page(c, "Export and import", "account")}
		p.Problem = says
		return s.showFiles(c, p)
	}
	if err != nil {
		return err
	}
	leaveNote(c, Note{Text: "Undone. Everything is as it was before the import."})
	return goTo(c, "/files")
}
