-- +goose Up
-- What was heard was clean or not, and what else is said of it.
ALTER TABLE log_entries ADD COLUMN IF NOT EXISTS failed BOOLEAN NOT NULL DEFAULT FALSE, ADD COLUMN IF NOT EXISTS errors VARCHAR(8) NOT NULL DEFAULT '',
    ADD COLUMN IF NOT EXISTS minutes INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS word VARCHAR(80) NOT NULL DEFAULT '';

-- What was decided about a student on a step, and why; never changed.
CREATE TABLE IF NOT EXISTS decisions (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    ladder_id BIGINT NOT NULL,
    step_id INT NOT NULL,
    to_step INT NOT NULL,
    kind VARCHAR(20) NOT NULL,
    why VARCHAR(300) NOT NULL,
    at DATETIME(6) NOT NULL,
    UNIQUE KEY owned (teacher_id, id),
    KEY of_student (teacher_id, student_id, at),
    CONSTRAINT decision_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    CONSTRAINT decision_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE
);
