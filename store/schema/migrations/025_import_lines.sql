-- +goose Up
-- What an import brought is a line, which is longer than the words that it is said in.
ALTER TABLE imports MODIFY says TEXT NOT NULL;
