-- +goose Up
-- What is exported has a name for good, which is no row number: a number is used again when a
-- backup is restored somewhere else, and an old file would then mean another row.
ALTER TABLE songs ADD COLUMN IF NOT EXISTS uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE patterns ADD COLUMN IF NOT EXISTS uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE classes ADD COLUMN IF NOT EXISTS uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE students ADD COLUMN IF NOT EXISTS uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE ladders ADD COLUMN IF NOT EXISTS uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
ALTER TABLE log_entries ADD COLUMN IF NOT EXISTS uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NULL;
-- What an import has stored, as sums over each table that refers to it: what differs later was
-- used or changed since then.
ALTER TABLE imports ADD COLUMN IF NOT EXISTS footprint TEXT NOT NULL DEFAULT '';
