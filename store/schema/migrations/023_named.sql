-- +goose Up
-- A row that an older copy of the program stores meanwhile gets a name, too.
UPDATE songs SET uid = UUID() WHERE uid IS NULL;
UPDATE patterns SET uid = UUID() WHERE uid IS NULL;
UPDATE classes SET uid = UUID() WHERE uid IS NULL;
UPDATE students SET uid = UUID() WHERE uid IS NULL;
UPDATE ladders SET uid = UUID() WHERE uid IS NULL;
UPDATE log_entries SET uid = UUID() WHERE uid IS NULL;
ALTER TABLE songs MODIFY COLUMN uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()), ADD UNIQUE INDEX IF NOT EXISTS named (teacher_id, uid);
ALTER TABLE patterns MODIFY COLUMN uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()), ADD UNIQUE INDEX IF NOT EXISTS named (teacher_id, uid);
ALTER TABLE classes MODIFY COLUMN uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()), ADD UNIQUE INDEX IF NOT EXISTS named (teacher_id, uid);
ALTER TABLE students MODIFY COLUMN uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()), ADD UNIQUE INDEX IF NOT EXISTS named (teacher_id, uid);
ALTER TABLE ladders MODIFY COLUMN uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()), ADD UNIQUE INDEX IF NOT EXISTS named (teacher_id, uid);
ALTER TABLE log_entries MODIFY COLUMN uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL DEFAULT (UUID()), ADD UNIQUE INDEX IF NOT EXISTS named (teacher_id, uid);
