-- +goose Up
-- The series on the term of a class, as package patterns writes it.
ALTER TABLE classes ADD COLUMN IF NOT EXISTS series TEXT NOT NULL DEFAULT '';
