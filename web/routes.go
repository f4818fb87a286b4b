package web

import "github.com/gofiber/fiber/v3"

// routes is the site map.
func (s *server) routes(app *fiber.App) {
	app.Get("/signin", s.signInPage)
	app.Post("/signin", s.limitByNetwork(), s.limitByAccount(), s.signIn)
	app.Post("/signout", s.signOut)

	app.Use(s.requireTeacher)
	app.Get("/", s.desk)
	app.Post("/log", s.logTempo)
	app.Post("/log/:id/withdraw", s.withdrawTempo)
	app.Post("/stage", s.setStage)

	app.Get("/class", s.classPage)
	app.Post("/class", s.once, s.addClass)
	app.Post("/class/choose", s.chooseClass)
	app.Get("/class/weights", s.weightsPage)
	app.Post("/class/:id", s.changeClass)
	app.Post("/class/:id/students", s.once, s.addStudent)
	app.Post("/class/:id/weights", s.setWeights)
	app.Post("/students/:id", s.changeStudent)

	app.Get("/songs", s.songList)
	app.Get("/songs/new", s.newSong)
	app.Post("/songs", s.once, s.addSong)
	app.Get("/songs/:id", s.songPage)
	app.Get("/songs/:id/around", s.songAround)
	app.Get("/songs/:id/left", s.songLeft)
	app.Post("/songs/:id/edit", s.editSong)
	app.Post("/songs/:id/undo", s.moveSong(-1))
	app.Post("/songs/:id/redo", s.moveSong(+1))
	app.Get("/songs/:id/keys", s.keyTable)
	app.Get("/songs/:id/drill", s.drillPage)
	app.Post("/songs/:id/drill", s.once, s.addDrill)

	app.Get("/patterns", s.patternList)
	app.Post("/patterns", s.once, s.savePattern)
	app.Get("/patterns/compare", s.comparePatterns)
	app.Get("/patterns/:ref", s.patternPage)
	app.Get("/patterns/:ref/around", s.patternAround)
	app.Post("/patterns/:ref/song", s.putPattern)
	app.Get("/level", s.levelPage)
	app.Get("/bench", s.bench)
	app.Post("/bench", s.pressBench)

	app.Get("/ladders", s.ladderList)
	app.Post("/ladders", s.once, s.addLadder)
	app.Get("/ladders/:id", s.ladderPage)
	app.Get("/ladders/:id/step/:step", s.stepAdvice)
	app.Get("/ladders/:id/beyond", s.beyond)
	app.Post("/ladders/:id/place", s.place)
	app.Post("/ladders/:id/edit", s.editLadder)
	app.Post("/ladders/:id/undo", s.moveLadder(-1))
	app.Post("/ladders/:id/redo", s.moveLadder(+1))
	app.Get("/ladders/:id/reuse", s.reusePage)
	app.Post("/ladders/:id/reuse", s.once, s.reuseLadder)
	app.Get("/ladders/:id/sheet", s.sheet)

	app.Get("/drills/:id", s.weekDrill)
	app.Post("/drills/:id/withdraw", s.withdrawDrill)
	app.Post("/drills/:id/restore", s.restoreDrill)

	app.Get("/archive", s.archivePage)
	app.Post("/archive/:kind/:id", s.archive)
	app.Post("/archive/:kind/:id/restore", s.restore)
	app.Post("/archive/:kind/:id/delete", s.deleteForGood)
	app.Get("/archive/:kind/:id/export", s.export)
	app.Get("/account", s.account)
	app.Get("/account/export", s.exportAll)
	app.Post("/account/password", s.limitPassword(), s.changePassword)
	app.Post("/account/archive", s.archiveAccount(true))
	app.Post("/account/restore", s.archiveAccount(false))
	app.Post("/account/delete", s.deleteAccount)

	app.Use(func(fiber.Ctx) error { return fiber.ErrNotFound })
}
