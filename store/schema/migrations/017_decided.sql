-- +goose Up
-- The revision of the ladder that a decision made: one that is undone is taken back with
-- it. 0 is a decision from before, or one that moved nobody; -1 one that is gone for good.
ALTER TABLE decisions ADD COLUMN IF NOT EXISTS n INT NOT NULL DEFAULT 0;
ALTER TABLE decisions ADD KEY IF NOT EXISTS on_ladder (ladder_id, n);
