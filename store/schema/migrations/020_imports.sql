-- +goose Up
-- Files that were taken in, and what each of them brought: by the name that a thing has for good,
-- so that the same file a second time finds what is there, and an import can be taken back.
CREATE TABLE IF NOT EXISTS imports (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    teacher_id BIGINT NOT NULL,
    name VARCHAR(190) NOT NULL,
    says VARCHAR(400) NOT NULL,
    at DATETIME(3) NOT NULL,
    undone_at DATETIME(3) NULL,
    UNIQUE KEY owned (teacher_id, id),
    CONSTRAINT import_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE
);
CREATE TABLE IF NOT EXISTS imported (
    teacher_id BIGINT NOT NULL,
    import_id BIGINT NOT NULL,
    uid VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
    kind VARCHAR(12) NOT NULL,
    row_id BIGINT NOT NULL,
    changed BOOLEAN NOT NULL,
    version INT NOT NULL,
    was LONGTEXT NOT NULL,
    PRIMARY KEY (import_id, uid),
    KEY known (teacher_id, uid),
    CONSTRAINT imported_by FOREIGN KEY (teacher_id, import_id) REFERENCES imports (teacher_id, id) ON DELETE CASCADE
);
