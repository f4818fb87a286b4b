package store

import (
	"context"
	"database/sql"
	"fmt"

	"arplin/store/database"
	"arplin/store/ref"
)

// Class is a teacher's class with its schools.
type Class struct {
	ID            ref.Class
	Name          string
	LessonMinutes int
	Fingers       string // "moving" or "fixed"
	LowFifth      bool
	ThickOnTop    bool   // strips with the thickest string on top
	Lean          bool   // fret only what the pattern strikes
	Anchor        bool   // little finger lightly anchored; else the hand floats
	LongNails     bool   // all long; else all short
	Wrist         bool   // strums from the wrist; else from the forearm
	Pick          bool   // plays with a pick what a pick can play
	Roll          string // where four fingers roll; empty for the three thin strings and the root
	Grows         string // how a figure grows on a ladder, as core/ladder/order writes it
	StepSize      string // small, usual or big
	ChordsCome    string // at the end, after each pattern, two early
	SingLow       string
	SingHigh      string
	Version       int    // counts every save of the settings
	Weights       string // of the parts of the level, as package teach writes them; empty as fitted
	WeightsNo     int    // counts every save of the weights
	Series        string // on the term, as package patterns writes it; empty for none
}

// AddClass stores a new class.
func (s *Store) AddClass(ctx context.Context, teacher ref.Teacher, c Class) (ref.Class, error) {
	id, err := s.insert(ctx, "INSERT INTO classes (teacher_id, name, lesson_minutes, fingers, low_fifth, thick_on_top, uid) VALUES (?, ?, ?, ?, ?, ?, ?)",
		teacher, c.Name, c.LessonMinutes, c.Fingers, c.LowFifth, c.ThickOnTop, named(""))
	if err != nil {
		return 0, fmt.Errorf("adding a class: %w", err)
	}
	return ref.Class(id), nil
}

// classFields are what a teacher sets of a class.
var classFields = fields[Class]{
	{"name", func(c *Class) any { return &c.Name }},
	{"lesson_minutes", func(c *Class) any { return &c.LessonMinutes }},
	{"fingers", func(c *Class) any { return &c.Fingers }},
	{"low_fifth", func(c *Class) any { return &c.LowFifth }},
	{"thick_on_top", func(c *Class) any { return &c.ThickOnTop }},
	{"lean", func(c *Class) any { return &c.Lean }},
	{"anchor", func(c *Class) any { return &c.Anchor }},
	{"long_nails", func(c *Class) any { return &c.LongNails }},
	{"wrist", func(c *Class) any { return &c.Wrist }},
	{"pick", func(c *Class) any { return &c.Pick }},
	{"roll", func(c *Class) any { return &c.Roll }},
	{"grows", func(c *Class) any { return &c.Grows }},
	{"step_size", func(c *Class) any { return &c.StepSize }},
	{"chords_come", func(c *Class) any { return &c.ChordsCome }},
	{"sing_low", func(c *Class) any { return &c.SingLow }},
	{"sing_high", func(c *Class) any { return &c.SingHigh }},
}

var classQuery = "SELECT id, version, weights, weights_version, series, " + classFields.columns() + " FROM classes WHERE teacher_id = ?"

func scanClass(scan func(...any) error) (c Class, err error) {
	err = scan(append([]any{&c.ID, &c.Version, &c.Weights, &c.WeightsNo, &c.Series}, classFields.of(&c)...)...)
	return c, err
}

// ChangeClass stores a class's name, minutes, schools and singing range for the
// given version.
func (s *Store) ChangeClass(ctx context.Context, teacher ref.Teacher, c Class) error {
	n, err := s.db.Change(ctx, "UPDATE classes SET "+classFields.set()+", version = version + 1 WHERE teacher_id = ? AND id = ? AND version = ?",
		append(classFields.of(&c), teacher, c.ID, c.Version)...)
	if err != nil {
		return fmt.Errorf("changing a class: %w", err)
	}
	if n == 1 {
		return nil
	}
	now, err := s.Class(ctx, teacher, c.ID)
	if err != nil {
		return err
	}
	return &StaleError{"class", now.Version}
}

// Classes lists a teacher's classes in the order in which they were made, the
// archived ones left out.
func (s *Store) Classes(ctx context.Context, teacher ref.Teacher) ([]Class, error) {
	rows, err := s.db.QueryContext(ctx, classQuery+" AND archived = FALSE ORDER BY id", teacher)
	return database.Collect(rows, err, func(r *sql.Rows) (Class, error) { return scanClass(r.Scan) })
}

// Class finds one of the teacher's classes.
func (s *Store) Class(ctx context.Context, teacher ref.Teacher, id ref.Class) (Class, error) {
	c, err := scanClass(s.db.QueryRowContext(ctx, classQuery+" AND id = ?", teacher, id).Scan)
	return c, notFound(err, "class")
}

// SetWeights stores how much the parts of the level count in a class, for the
// given version of the weights.
func (s *Store) SetWeights(ctx context.Context, teacher ref.Teacher, class ref.Class, version int, weights string) error {
	n, err := s.db.Change(ctx, "UPDATE classes SET weights = ?, weights_version = weights_version + 1 WHERE teacher_id = ? AND id = ? AND weights_version = ?", weights, teacher, class, version)
	if err != nil || n == 1 {
		return err
	}
	now, err := s.Class(ctx, teacher, class)
	if err != nil {
		return err
	}
	return &StaleError{"weights", now.WeightsNo}
}

// SetSeries puts a series on the term of a class, or with nothing takes it off.
func (s *Store) SetSeries(ctx context.Context, teacher ref.Teacher, class ref.Class, series string) error {
	if _, err := s.Class(ctx, teacher, class); err != nil {
		return err
	}
	_, err := s.db.Change(ctx, "UPDATE classes SET series = ? WHERE teacher_id = ? AND id = ?", series, teacher, class)
	return err
}
