-- +goose Up
CREATE TABLE patterns (
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
ALTER TABLE classes ADD COLUMN anchor BOOLEAN NOT NULL DEFAULT FALSE, ADD COLUMN long_nails BOOLEAN NOT NULL DEFAULT FALSE,
    ADD COLUMN wrist BOOLEAN NOT NULL DEFAULT TRUE;
-- Empty: the student follows the class.
ALTER TABLE students ADD COLUMN fingers VARCHAR(10) NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE students DROP COLUMN fingers;
ALTER TABLE classes DROP COLUMN anchor, DROP COLUMN long_nails, DROP COLUMN wrist;
DROP TABLE patterns;
