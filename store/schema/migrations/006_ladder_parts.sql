-- +goose Up
-- A ladder may be for one part of its song, by name; empty is the whole song.
-- build_order is the school's order in which the rest is found anew; undo takes
-- it back with the steps.
ALTER TABLE ladders ADD COLUMN IF NOT EXISTS part VARCHAR(200) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS build_order VARCHAR(40) NOT NULL DEFAULT '';
ALTER TABLE ladder_history ADD COLUMN IF NOT EXISTS build_order VARCHAR(40) NOT NULL DEFAULT '';
