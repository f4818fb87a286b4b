-- +goose Up
CREATE TABLE IF NOT EXISTS teachers (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    email VARCHAR(190) NOT NULL,
    name VARCHAR(80) NOT NULL,
    password_hash VARCHAR(200) NOT NULL,
    created_at DATETIME(3) NOT NULL,
    UNIQUE KEY email (email)
);

-- A class chooses its schools; students belong to it.
CREATE TABLE IF NOT EXISTS classes (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    name VARCHAR(80) NOT NULL,
    lesson_minutes INT NOT NULL,
    fingers VARCHAR(10) NOT NULL,
    low_fifth BOOLEAN NOT NULL,
    thick_on_top BOOLEAN NOT NULL,
    FOREIGN KEY (teacher_id) REFERENCES teachers (id)
);

-- First names or nicknames, nothing more: there are children among them.
CREATE TABLE IF NOT EXISTS students (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    class_id BIGINT NOT NULL,
    name VARCHAR(40) NOT NULL,
    instrument VARCHAR(40) NOT NULL,
    left_handed BOOLEAN NOT NULL,
    UNIQUE KEY name_in_class (class_id, name),
    FOREIGN KEY (teacher_id) REFERENCES teachers (id),
    FOREIGN KEY (class_id) REFERENCES classes (id)
);

-- body is the song as core/song writes it; the other columns are for lists.
CREATE TABLE IF NOT EXISTS songs (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    title VARCHAR(120) NOT NULL,
    meter VARCHAR(8) NOT NULL,
    tempo INT NOT NULL,
    body LONGTEXT NOT NULL,
    version INT NOT NULL,
    archived BOOLEAN NOT NULL DEFAULT FALSE,
    created_at DATETIME(3) NOT NULL,
    KEY of_teacher (teacher_id, archived, title),
    FOREIGN KEY (teacher_id) REFERENCES teachers (id)
);

-- target and steps are in the stroke notation; steps is a JSON list.
CREATE TABLE IF NOT EXISTS ladders (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    class_id BIGINT NOT NULL,
    song_id BIGINT NOT NULL,
    pattern_name VARCHAR(120) NOT NULL,
    target VARCHAR(8000) NOT NULL,
    steps LONGTEXT NOT NULL,
    archived BOOLEAN NOT NULL DEFAULT FALSE,
    created_at DATETIME(3) NOT NULL,
    KEY of_class (teacher_id, class_id, archived, created_at),
    FOREIGN KEY (teacher_id) REFERENCES teachers (id),
    FOREIGN KEY (class_id) REFERENCES classes (id),
    FOREIGN KEY (song_id) REFERENCES songs (id)
);

-- step counts from 0, the easiest.
CREATE TABLE IF NOT EXISTS placements (
    ladder_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    teacher_id BIGINT NOT NULL,
    step INT NOT NULL,
    PRIMARY KEY (ladder_id, student_id),
    FOREIGN KEY (ladder_id) REFERENCES ladders (id),
    FOREIGN KEY (student_id) REFERENCES students (id)
);

-- Append-only. An entry that takes another back names it in withdraws. The
-- client's id makes an entry that is sent twice one entry.
CREATE TABLE IF NOT EXISTS log_entries (
    id BIGINT AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    student_id BIGINT NOT NULL,
    ladder_id BIGINT NOT NULL,
    step INT NOT NULL,
    tempo INT NOT NULL,
    withdraws BIGINT NULL,
    client_id VARCHAR(64) NOT NULL,
    at DATETIME(3) NOT NULL,
    UNIQUE KEY sent_once (teacher_id, client_id),
    KEY of_student (student_id, at),
    FOREIGN KEY (teacher_id) REFERENCES teachers (id),
    FOREIGN KEY (student_id) REFERENCES students (id),
    FOREIGN KEY (ladder_id) REFERENCES ladders (id),
    FOREIGN KEY (withdraws) REFERENCES log_entries (id)
);

-- Sessions and rate limits, shared by all copies of the program.
CREATE TABLE IF NOT EXISTS keyvalues (
    k VARCHAR(255) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
    v LONGBLOB NOT NULL,
    expires_at BIGINT NOT NULL,
    KEY expiry (expires_at)
);
