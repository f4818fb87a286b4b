-- +goose Up
-- What was heard on a drill. Append-only, as the log.
CREATE TABLE IF NOT EXISTS drill_tries (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    drill_id BIGINT NOT NULL,
    tempo INT NOT NULL,
    failed BOOLEAN NOT NULL,
    client_id VARCHAR(64) NOT NULL,
    at DATETIME(3) NOT NULL,
    UNIQUE KEY sent_once (teacher_id, client_id),
    KEY of_drill (drill_id, at),
    CONSTRAINT try_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE,
    CONSTRAINT try_on_drill FOREIGN KEY (drill_id) REFERENCES week_drills (id) ON DELETE CASCADE
);
