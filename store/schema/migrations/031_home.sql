-- +goose Up
-- The key of which, with a link's nonce, its address is made. It goes with a backup, so that sheets that
-- were printed before still open what is printed after.
CREATE TABLE IF NOT EXISTS school_keys (
    name VARCHAR(20) NOT NULL PRIMARY KEY,
    k CHAR(64) NOT NULL,
    made DATETIME NOT NULL DEFAULT CURRENT_TIMESTAMP
);
-- The link to a student's phone. What it opens is made of the school's key and the nonce, so that a sheet
-- can be printed again; only its digest is looked up.
CREATE TABLE IF NOT EXISTS phone_links (
    student_id BIGINT NOT NULL PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    nonce CHAR(32) NOT NULL,
    digest CHAR(64) NOT NULL,
    made DATETIME NOT NULL,
    ends DATE NOT NULL,
    revoked BOOLEAN NOT NULL DEFAULT FALSE,
    opened DATETIME NULL,
    UNIQUE KEY by_digest (digest),
    KEY owned (teacher_id, student_id),
    CONSTRAINT link_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE
);
-- What students played at home and wrote down; apart from the log, which is what was heard. Append-only.
CREATE TABLE IF NOT EXISTS home_entries (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    ladder_id BIGINT NULL,
    step_id INT NOT NULL DEFAULT 0,
    drill_id BIGINT NULL,
    card VARCHAR(12) NOT NULL,
    went VARCHAR(8) NOT NULL DEFAULT '',
    tempo INT NOT NULL DEFAULT 0,
    minutes INT NOT NULL DEFAULT 0,
    even_ms INT NOT NULL DEFAULT 0,
    word VARCHAR(12) NOT NULL DEFAULT '',
    client_id VARCHAR(64) NOT NULL,
    at DATETIME(3) NOT NULL,
    came DATETIME(3) NOT NULL,
    UNIQUE KEY sent_once (student_id, client_id),
    KEY of_student (teacher_id, student_id, at),
    KEY came_of_student (teacher_id, student_id, came),
    CONSTRAINT home_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    CONSTRAINT home_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE,
    CONSTRAINT home_on_drill FOREIGN KEY (drill_id) REFERENCES week_drills (id) ON DELETE SET NULL
);
