-- +goose Up
-- How long a student practises a day; common practice is 10 to 30 minutes.
ALTER TABLE students ADD COLUMN IF NOT EXISTS day_minutes INT NOT NULL DEFAULT 15;

-- A drill on a student's week. The pattern is kept by its text, so that one
-- that is changed or put away stays; week is its Monday.
CREATE TABLE IF NOT EXISTS week_drills (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    song_id BIGINT NOT NULL,
    week DATE NOT NULL,
    kind VARCHAR(10) NOT NULL,
    bar INT NOT NULL,
    pattern VARCHAR(8000) NOT NULL,
    pattern_name VARCHAR(120) NOT NULL,
    minutes INT NOT NULL,
    withdrawn BOOLEAN NOT NULL DEFAULT FALSE,
    created_at DATETIME(3) NOT NULL,
    KEY of_week (teacher_id, week),
    FOREIGN KEY (teacher_id) REFERENCES teachers (id),
    FOREIGN KEY (student_id) REFERENCES students (id),
    FOREIGN KEY (song_id) REFERENCES songs (id)
);
