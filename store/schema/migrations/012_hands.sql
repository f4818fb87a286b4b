-- +goose Up
-- Chords that a student holds in a way of their own, as package song reads them; and
-- how a class plays with a pick and where four fingers roll.
ALTER TABLE students ADD COLUMN IF NOT EXISTS shapes VARCHAR(2000) NOT NULL DEFAULT '';
ALTER TABLE classes ADD COLUMN IF NOT EXISTS pick BOOLEAN NOT NULL DEFAULT FALSE, ADD COLUMN IF NOT EXISTS roll VARCHAR(20) NOT NULL DEFAULT '';
