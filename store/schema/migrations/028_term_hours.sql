-- +goose Up
-- When the class meets, the weeks without a lesson, and further songs of the concert (ids of ladders).
ALTER TABLE terms ADD COLUMN IF NOT EXISTS at_hour VARCHAR(5) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS off_weeks VARCHAR(400) NOT NULL DEFAULT '',
    ADD COLUMN IF NOT EXISTS more_ladders VARCHAR(400) NOT NULL DEFAULT '';
