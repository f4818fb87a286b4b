-- +goose Up
-- How much more or less a part of the demand counts in this class, as JSON by
-- the part's name; empty is as fitted.
ALTER TABLE classes ADD COLUMN IF NOT EXISTS weights VARCHAR(1000) NOT NULL DEFAULT '';
