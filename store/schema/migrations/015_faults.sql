-- +goose Up
-- What failed in a try, and in which bar.
ALTER TABLE log_entries ADD COLUMN IF NOT EXISTS fault VARCHAR(20) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS bar_id BIGINT NOT NULL DEFAULT 0;
ALTER TABLE log_entries ADD KEY IF NOT EXISTS of_student_on_ladder (student_id, ladder_id, at);
