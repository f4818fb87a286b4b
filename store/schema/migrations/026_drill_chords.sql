-- +goose Up
-- The chords that a drill puts under its figure, a bar each, as they are fingered.
ALTER TABLE week_drills ADD COLUMN IF NOT EXISTS over_chords VARCHAR(250) NOT NULL DEFAULT '';
