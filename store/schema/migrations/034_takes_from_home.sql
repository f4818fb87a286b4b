-- +goose Up
-- Whether the students of a class may send a take from their phones, and which of those kept came from there.
ALTER TABLE classes ADD COLUMN IF NOT EXISTS phone_takes BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE takes ADD COLUMN IF NOT EXISTS home BOOLEAN NOT NULL DEFAULT FALSE;
