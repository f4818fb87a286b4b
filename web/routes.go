package web

import "github.com/gofiber/fiber/v3"

// routes is the site map.
func (s *server) routes(app *fiber.App) {
	app.Get("/signin", s.signInPage)
	app.Post("/signin", s.limitByAddress(), s.limitByAccount(), s.signIn)
	app.Post("/signout", s.signOut)

	app.Use(s.requireTeacher)
	app.Get("/", s.desk)
	app.Post("/log", s.logTempo)
	app.Post("/log/:id/withdraw", s.withdrawTempo)

	app.Get("/class", s.classPage)
	app.Post("/class", s.addClass)
	app.Post("/class/:id", s.changeClass)
	app.Post("/class/:id/students", s.addStudent)
	app.Get("/class/weights", s.weightsPage)
	app.Post("/class/:id/weights", s.setWeights)
	app.Post("/students/:id", s.changeStudent)

	app.Get("/songs", s.songList)
	app.Get("/songs/new", s.newSong)
	app.Post("/songs", s.addSong)
	app.Get("/songs/:id", s.songPage)
	app.Post("/songs/:id/edit", s.editSong)
	app.Post("/songs/:id/undo", s.undoSong)
	app.Post("/songs/:id/redo", s.redoSong)
	app.Get("/songs/:id/keys", s.keyTable)
	app.Get("/songs/:id/drill", s.drillPage)
	app.Post("/songs/:id/drill", s.addDrill)
	app.Post("/songs/:id/archive", s.archiveSong)
	app.Post("/songs/:id/restore", s.restoreSong)

	app.Get("/patterns", s.patternList)
	app.Post("/patterns", s.savePattern)
	app.Get("/patterns/compare", s.comparePatterns)
	app.Post("/patterns/own/:id/archive", s.archivePattern)
	app.Post("/patterns/own/:id/restore", s.restorePattern)
	app.Get("/patterns/:ref", s.patternPage)
	app.Post("/patterns/:ref/song", s.putPattern)
	app.Get("/level", s.levelPage)
	app.Get("/bench", s.bench)
	app.Post("/bench", s.pressBench)

	app.Get("/ladders", s.ladderList)
	app.Post("/ladders", s.addLadder)
	app.Get("/ladders/:id", s.ladderPage)
	app.Post("/ladders/:id/place", s.placeStudent)
	app.Post("/ladders/:id/places", s.placeStudents)
	app.Post("/ladders/:id/edit", s.editLadder)
	app.Post("/ladders/:id/undo", s.undoLadder)
	app.Post("/ladders/:id/reuse", s.reuseLadder)
	app.Post("/ladders/:id/archive", s.archiveLadder)
	app.Post("/ladders/:id/restore", s.restoreLadder)
	app.Get("/ladders/:id/sheet", s.sheet)

	app.Get("/drills/:id", s.weekDrill)
	app.Post("/drills/:id/withdraw", s.withdrawDrill)
	app.Post("/drills/:id/restore", s.restoreDrill)

	app.Use(func(fiber.Ctx) error { return fiber.ErrNotFound })
}
