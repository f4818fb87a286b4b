-- +goose Up
-- Who plays what on a ladder's song: groups of the class, and a part for each in each pass,
-- as the core reads it.
CREATE TABLE IF NOT EXISTS arrangements (
    teacher_id BIGINT NOT NULL,
    ladder_id BIGINT NOT NULL,
    body JSON NOT NULL,
    version INT NOT NULL DEFAULT 1,
    PRIMARY KEY (ladder_id),
    CONSTRAINT arrangement_of_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE
);
