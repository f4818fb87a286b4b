-- +goose Up
CREATE TABLE IF NOT EXISTS patterns (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    name VARCHAR(80) NOT NULL,
    notation VARCHAR(8000) NOT NULL,
    version INT NOT NULL,
    archived BOOLEAN NOT NULL DEFAULT FALSE,
    created_at DATETIME(3) NOT NULL,
    KEY of_teacher (teacher_id, archived, name),
    FOREIGN KEY (teacher_id) REFERENCES teachers (id)
);
ALTER TABLE classes ADD COLUMN IF NOT EXISTS anchor BOOLEAN NOT NULL DEFAULT FALSE, ADD COLUMN IF NOT EXISTS long_nails BOOLEAN NOT NULL DEFAULT FALSE,
    ADD COLUMN IF NOT EXISTS wrist BOOLEAN NOT NULL DEFAULT TRUE;
-- Empty: the student follows the class.
ALTER TABLE students ADD COLUMN IF NOT EXISTS fingers VARCHAR(10) NOT NULL DEFAULT '';
