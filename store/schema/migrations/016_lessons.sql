-- +goose Up
-- A lesson of a class: before it begins, what the teacher has changed of what is planned;
-- from then on the plan as it was, with numbers where names of people and songs stand.
CREATE TABLE IF NOT EXISTS lessons (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    class_id BIGINT NOT NULL,
    minutes INT NOT NULL,
    kept VARCHAR(400) NOT NULL DEFAULT '',
    body MEDIUMTEXT NOT NULL,
    at_piece INT NOT NULL DEFAULT 0,
    piece_at DATETIME(3) NULL,
    began_at DATETIME(3) NULL,
    ended_at DATETIME(3) NULL,
    version INT NOT NULL DEFAULT 1,
    created_at DATETIME(3) NOT NULL,
    UNIQUE KEY owned (teacher_id, id),
    KEY of_class (teacher_id, class_id, id),
    CONSTRAINT lesson_of_class FOREIGN KEY (teacher_id, class_id) REFERENCES classes (teacher_id, id) ON DELETE CASCADE
);

-- Who was away from a lesson; who is not here was there.
CREATE TABLE IF NOT EXISTS absences (
    teacher_id BIGINT NOT NULL,
    lesson_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    PRIMARY KEY (lesson_id, student_id),
    KEY of_student (teacher_id, student_id),
    CONSTRAINT absence_from_lesson FOREIGN KEY (teacher_id, lesson_id) REFERENCES lessons (teacher_id, id) ON DELETE CASCADE,
    CONSTRAINT absence_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE
);

-- The weeks up to a concert: one term at a time for a class.
CREATE TABLE IF NOT EXISTS terms (
    teacher_id BIGINT NOT NULL,
    class_id BIGINT NOT NULL,
    ladder_id BIGINT NOT NULL,
    begins DATE NOT NULL,
    concert DATE NOT NULL,
    name VARCHAR(80) NOT NULL,
    version INT NOT NULL DEFAULT 1,
    PRIMARY KEY (class_id),
    CONSTRAINT term_of_class FOREIGN KEY (teacher_id, class_id) REFERENCES classes (teacher_id, id) ON DELETE CASCADE,
    CONSTRAINT term_of_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE
);

-- More of a student, all of it about playing.
ALTER TABLE students ADD COLUMN IF NOT EXISTS joined DATE NULL, ADD COLUMN IF NOT EXISTS left_on DATE NULL,
    ADD COLUMN IF NOT EXISTS capo INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS cannot VARCHAR(80) NOT NULL DEFAULT '',
    ADD COLUMN IF NOT EXISTS before_minutes INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS minutes_since DATETIME(3) NULL,
    ADD COLUMN IF NOT EXISTS note VARCHAR(2000) NOT NULL DEFAULT '';

-- A drill stays until it is done or taken off.
ALTER TABLE week_drills ADD COLUMN IF NOT EXISTS done_at DATETIME(3) NULL;
ALTER TABLE week_drills ADD KEY IF NOT EXISTS open_of_student (student_id, withdrawn, done_at);
