-- +goose Up
-- Lasting identities: steps, bars and sections are named by ids and not by their
-- places. This adds what is needed; 009 fills it along the histories, 010 takes
-- the places away and binds every row to its owner.
ALTER TABLE teachers ADD COLUMN IF NOT EXISTS archived BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE classes ADD COLUMN IF NOT EXISTS archived BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE students ADD COLUMN IF NOT EXISTS archived BOOLEAN NOT NULL DEFAULT FALSE;

-- next_id is the next id that no section, bar or step of the song or ladder has
-- had; it never falls, so that undo does not bring an id back for another thing.
ALTER TABLE songs ADD COLUMN IF NOT EXISTS next_id INT NOT NULL DEFAULT 1;
ALTER TABLE ladders ADD COLUMN IF NOT EXISTS next_id INT NOT NULL DEFAULT 1, ADD COLUMN IF NOT EXISTS body LONGTEXT NOT NULL DEFAULT '',
    ADD COLUMN IF NOT EXISTS sections VARCHAR(2000) NOT NULL DEFAULT '', ADD COLUMN IF NOT EXISTS step_count INT NOT NULL DEFAULT 0;
-- The instrument for which a ladder's levels are measured and its first chords chosen.
ALTER TABLE ladders ADD COLUMN IF NOT EXISTS instrument VARCHAR(80) NOT NULL DEFAULT 'guitar';

-- done says as JSON what a revision did: an id and its arguments.
CREATE TABLE IF NOT EXISTS song_revisions (
    teacher_id BIGINT NOT NULL,
    document_id BIGINT NOT NULL,
    n INT NOT NULL,
    done VARCHAR(1000) NOT NULL,
    body LONGTEXT NOT NULL,
    PRIMARY KEY (document_id, n)
);
CREATE TABLE IF NOT EXISTS ladder_revisions (
    teacher_id BIGINT NOT NULL,
    document_id BIGINT NOT NULL,
    n INT NOT NULL,
    done VARCHAR(1000) NOT NULL,
    body LONGTEXT NOT NULL,
    PRIMARY KEY (document_id, n)
);
-- Where everybody stood in a revision of a ladder.
CREATE TABLE IF NOT EXISTS revision_places (
    ladder_id BIGINT NOT NULL,
    n INT NOT NULL,
    student_id BIGINT NOT NULL,
    step_id INT NOT NULL,
    PRIMARY KEY (ladder_id, n, student_id)
);

-- A step as it was when somebody played it: once for every form that it has had.
CREATE TABLE IF NOT EXISTS played_steps (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    ladder_id BIGINT NOT NULL,
    step_id INT NOT NULL,
    digest CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    body TEXT NOT NULL,
    UNIQUE KEY as_played (ladder_id, digest)
);
ALTER TABLE log_entries ADD COLUMN IF NOT EXISTS step_id INT NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS played_id BIGINT NULL;
ALTER TABLE placements ADD COLUMN IF NOT EXISTS step_id INT NOT NULL DEFAULT 0;
ALTER TABLE week_drills ADD COLUMN IF NOT EXISTS bar_id INT NOT NULL DEFAULT 0;
