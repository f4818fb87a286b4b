-- +goose Up
-- As with songs: version counts every save, head is the place in the history.
ALTER TABLE ladders ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1, ADD COLUMN IF NOT EXISTS head INT NOT NULL DEFAULT 1;
CREATE TABLE IF NOT EXISTS ladder_history (
    ladder_id BIGINT NOT NULL,
    n INT NOT NULL,
    says VARCHAR(200) NOT NULL,
    steps LONGTEXT NOT NULL,
    PRIMARY KEY (ladder_id, n),
    FOREIGN KEY (ladder_id) REFERENCES ladders (id)
);
INSERT IGNORE INTO ladder_history (ladder_id, n, says, steps) SELECT id, 1, '', steps FROM ladders;
