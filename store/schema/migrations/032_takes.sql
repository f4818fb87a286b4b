-- +goose Up
-- Whether a try was a take that Listen judged.
ALTER TABLE log_entries ADD COLUMN IF NOT EXISTS taken BOOLEAN NOT NULL DEFAULT FALSE;
