-- +goose Up
-- Words by which a teacher finds songs, as the song has them.
ALTER TABLE songs ADD COLUMN IF NOT EXISTS tags VARCHAR(400) NOT NULL DEFAULT '';
