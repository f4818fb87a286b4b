-- +goose Up
-- A ladder may be for one part of its song, by name; empty is the whole song.
-- build_order is the school's order in which the rest is found anew.
ALTER TABLE ladders ADD COLUMN part VARCHAR(40) NOT NULL DEFAULT '', ADD COLUMN build_order VARCHAR(40) NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE ladders DROP COLUMN part, DROP COLUMN build_order;
