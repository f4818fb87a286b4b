-- +goose Up
-- Takes that were kept: a student's recordings, as FLAC in base64, since a backup is text. They are few, and go with
-- the student.
CREATE TABLE IF NOT EXISTS takes (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    ladder_id BIGINT NULL,
    step_id INT NOT NULL DEFAULT 0,
    tempo INT NOT NULL,
    seconds INT NOT NULL,
    says VARCHAR(600) NOT NULL DEFAULT '',
    bytes INT NOT NULL,
    sound MEDIUMTEXT NOT NULL,
    uid CHAR(64) NOT NULL,
    at DATETIME(3) NOT NULL,
    UNIQUE KEY kept_once (teacher_id, uid),
    KEY of_student (teacher_id, student_id, at),
    CONSTRAINT take_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    CONSTRAINT take_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE
);
