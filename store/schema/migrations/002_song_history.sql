-- +goose Up
-- version counts every save, so that a stale edit is noticed; head is the place
-- in the history that is shown, which undo moves back and redo forward.
ALTER TABLE songs ADD COLUMN IF NOT EXISTS head INT NOT NULL DEFAULT 1;
CREATE TABLE IF NOT EXISTS song_history (
    song_id BIGINT NOT NULL,
    n INT NOT NULL,
    says VARCHAR(200) NOT NULL,
    body LONGTEXT NOT NULL,
    PRIMARY KEY (song_id, n),
    FOREIGN KEY (song_id) REFERENCES songs (id)
);
INSERT IGNORE INTO song_history (song_id, n, says, body) SELECT id, 1, '', body FROM songs;

ALTER TABLE students MODIFY instrument VARCHAR(80) NOT NULL;
ALTER TABLE classes ADD COLUMN IF NOT EXISTS sing_low VARCHAR(5) NOT NULL DEFAULT 'A3', ADD COLUMN IF NOT EXISTS sing_high VARCHAR(5) NOT NULL DEFAULT 'D5',
    ADD COLUMN IF NOT EXISTS lean BOOLEAN NOT NULL DEFAULT FALSE;
