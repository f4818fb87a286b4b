-- +goose Up
-- Every statement here and before can be repeated: a start that was cut short
-- begins its migration anew.

-- A password that is changed ends the sessions of before. Two addresses that
-- differ in any letter are two.
ALTER TABLE teachers ADD COLUMN IF NOT EXISTS epoch INT NOT NULL DEFAULT 0,
    MODIFY email VARCHAR(190) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL;

-- Two names that differ in an accent or a sign are two; in capitals alone, one.
ALTER TABLE students MODIFY name VARCHAR(40) CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_as_ci NOT NULL;

-- Settings have versions, too, so that a stale form is noticed.
ALTER TABLE classes ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1, ADD COLUMN IF NOT EXISTS weights_version INT NOT NULL DEFAULT 1;
ALTER TABLE students ADD COLUMN IF NOT EXISTS version INT NOT NULL DEFAULT 1;

-- What was sent once, by the form's own key and its content, and where it led.
CREATE TABLE IF NOT EXISTS sent_forms (
    teacher_id BIGINT NOT NULL,
    k CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    location VARCHAR(2000) NOT NULL DEFAULT '',
    at BIGINT NOT NULL,
    PRIMARY KEY (teacher_id, k),
    KEY age (at),
    CONSTRAINT form_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE
);

-- A key that was ended stays ended: a request that still runs cannot bring it back.
ALTER TABLE keyvalues ADD COLUMN IF NOT EXISTS ended BOOLEAN NOT NULL DEFAULT FALSE;
