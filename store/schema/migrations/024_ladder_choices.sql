-- +goose Up
-- What a class chooses of its ladders: how a figure grows, how big a step is, when the chords come;
-- empty is the usual.
ALTER TABLE classes ADD COLUMN IF NOT EXISTS grows VARCHAR(40) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS step_size VARCHAR(20) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS chords_come VARCHAR(20) NOT NULL DEFAULT '';
