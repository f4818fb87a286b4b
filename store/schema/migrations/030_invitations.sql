-- +goose Up
-- Who runs the school: the first teacher. That teacher invites others, and lets them back in.
ALTER TABLE teachers ADD COLUMN IF NOT EXISTS runs BOOLEAN NOT NULL DEFAULT FALSE;
UPDATE teachers SET runs = TRUE WHERE id = (SELECT id FROM (SELECT MIN(id) id FROM teachers) first);
-- A link that makes an account, or for a teacher a new password: only its digest is kept, until it is
-- used or runs out.
CREATE TABLE IF NOT EXISTS invitations (
    digest BINARY(32) NOT NULL PRIMARY KEY,
    teacher_id BIGINT NULL,
    expires DATETIME NOT NULL,
    CONSTRAINT invitation_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE
);
-- A class to look around in, with the songs that came with it.
CREATE TABLE IF NOT EXISTS samples (
    class_id BIGINT NOT NULL PRIMARY KEY,
    songs VARCHAR(250) NOT NULL,
    added DATE NOT NULL,
    CONSTRAINT sample_class FOREIGN KEY (class_id) REFERENCES classes (id) ON DELETE CASCADE
);
