-- +goose Up
-- Which ladders a class is on now: those on the desk, those set aside, those finished.
-- Until now the newest was the one on the desk.
ALTER TABLE ladders ADD COLUMN IF NOT EXISTS progress VARCHAR(10) NOT NULL DEFAULT '';
UPDATE ladders SET progress = 'now' WHERE progress = '' AND id IN (SELECT id FROM
    (SELECT id, ROW_NUMBER() OVER (PARTITION BY class_id ORDER BY archived, created_at DESC, id DESC) n FROM ladders) newest WHERE n = 1);
UPDATE ladders SET progress = 'aside' WHERE progress = '';
ALTER TABLE ladders ADD KEY IF NOT EXISTS on_now (teacher_id, class_id, progress, created_at);
