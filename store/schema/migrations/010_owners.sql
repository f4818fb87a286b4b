-- +goose Up
-- The old places and histories go, and every row is bound to its owner by
-- composite keys: a row of one teacher cannot hang on another teacher's.
ALTER TABLE placements DROP COLUMN IF EXISTS step;
ALTER TABLE log_entries DROP COLUMN IF EXISTS step;
ALTER TABLE week_drills DROP COLUMN IF EXISTS bar;
ALTER TABLE ladders DROP COLUMN IF EXISTS steps, DROP COLUMN IF EXISTS part, DROP COLUMN IF EXISTS build_order;
DROP TABLE IF EXISTS song_history;
DROP TABLE IF EXISTS ladder_history;

ALTER TABLE classes ADD UNIQUE KEY IF NOT EXISTS owned (teacher_id, id);
ALTER TABLE students ADD UNIQUE KEY IF NOT EXISTS owned (teacher_id, id);
ALTER TABLE songs ADD UNIQUE KEY IF NOT EXISTS owned (teacher_id, id);
ALTER TABLE ladders ADD UNIQUE KEY IF NOT EXISTS owned (teacher_id, id);
ALTER TABLE played_steps ADD UNIQUE KEY IF NOT EXISTS owned (teacher_id, id);
ALTER TABLE log_entries ADD UNIQUE KEY IF NOT EXISTS owned (teacher_id, id), ADD KEY IF NOT EXISTS of_ladder (teacher_id, ladder_id, at);

ALTER TABLE classes DROP FOREIGN KEY IF EXISTS classes_ibfk_1;
ALTER TABLE classes DROP FOREIGN KEY IF EXISTS class_of_teacher;
ALTER TABLE classes ADD CONSTRAINT class_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE;
ALTER TABLE students DROP FOREIGN KEY IF EXISTS students_ibfk_1, DROP FOREIGN KEY IF EXISTS students_ibfk_2;
ALTER TABLE students DROP FOREIGN KEY IF EXISTS student_of_class;
ALTER TABLE students ADD CONSTRAINT student_of_class FOREIGN KEY (teacher_id, class_id) REFERENCES classes (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE songs DROP FOREIGN KEY IF EXISTS songs_ibfk_1;
ALTER TABLE songs DROP FOREIGN KEY IF EXISTS song_of_teacher;
ALTER TABLE songs ADD CONSTRAINT song_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE;
ALTER TABLE patterns DROP FOREIGN KEY IF EXISTS patterns_ibfk_1;
ALTER TABLE patterns DROP FOREIGN KEY IF EXISTS pattern_of_teacher;
ALTER TABLE patterns ADD CONSTRAINT pattern_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE;
ALTER TABLE ladders DROP FOREIGN KEY IF EXISTS ladders_ibfk_1, DROP FOREIGN KEY IF EXISTS ladders_ibfk_2, DROP FOREIGN KEY IF EXISTS ladders_ibfk_3;
ALTER TABLE ladders DROP FOREIGN KEY IF EXISTS ladder_of_class, DROP FOREIGN KEY IF EXISTS ladder_of_song;
ALTER TABLE ladders ADD CONSTRAINT ladder_of_class FOREIGN KEY (teacher_id, class_id) REFERENCES classes (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT ladder_of_song FOREIGN KEY (teacher_id, song_id) REFERENCES songs (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE placements DROP FOREIGN KEY IF EXISTS placements_ibfk_1, DROP FOREIGN KEY IF EXISTS placements_ibfk_2;
ALTER TABLE placements DROP FOREIGN KEY IF EXISTS place_on_ladder, DROP FOREIGN KEY IF EXISTS place_of_student;
ALTER TABLE placements ADD CONSTRAINT place_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT place_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE song_revisions DROP FOREIGN KEY IF EXISTS revision_of_song;
ALTER TABLE song_revisions ADD CONSTRAINT revision_of_song FOREIGN KEY (teacher_id, document_id) REFERENCES songs (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE ladder_revisions DROP FOREIGN KEY IF EXISTS revision_of_ladder;
ALTER TABLE ladder_revisions ADD CONSTRAINT revision_of_ladder FOREIGN KEY (teacher_id, document_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE revision_places DROP FOREIGN KEY IF EXISTS place_in_revision, DROP FOREIGN KEY IF EXISTS revision_place_of_student;
ALTER TABLE revision_places ADD CONSTRAINT place_in_revision FOREIGN KEY (ladder_id, n) REFERENCES ladder_revisions (document_id, n) ON DELETE CASCADE,
    ADD CONSTRAINT revision_place_of_student FOREIGN KEY (student_id) REFERENCES students (id) ON DELETE CASCADE;
ALTER TABLE played_steps DROP FOREIGN KEY IF EXISTS played_on_ladder;
ALTER TABLE played_steps ADD CONSTRAINT played_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE log_entries DROP FOREIGN KEY IF EXISTS log_entries_ibfk_1, DROP FOREIGN KEY IF EXISTS log_entries_ibfk_2, DROP FOREIGN KEY IF EXISTS log_entries_ibfk_3, DROP FOREIGN KEY IF EXISTS log_entries_ibfk_4;
ALTER TABLE log_entries DROP FOREIGN KEY IF EXISTS entry_of_student, DROP FOREIGN KEY IF EXISTS entry_on_ladder, DROP FOREIGN KEY IF EXISTS entry_as_played, DROP FOREIGN KEY IF EXISTS entry_withdraws;
ALTER TABLE log_entries MODIFY played_id BIGINT NOT NULL,
    ADD CONSTRAINT entry_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT entry_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT entry_as_played FOREIGN KEY (teacher_id, played_id) REFERENCES played_steps (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT entry_withdraws FOREIGN KEY (withdraws) REFERENCES log_entries (id) ON DELETE CASCADE;
ALTER TABLE week_drills DROP FOREIGN KEY IF EXISTS week_drills_ibfk_1, DROP FOREIGN KEY IF EXISTS week_drills_ibfk_2, DROP FOREIGN KEY IF EXISTS week_drills_ibfk_3;
ALTER TABLE week_drills DROP FOREIGN KEY IF EXISTS drill_of_student, DROP FOREIGN KEY IF EXISTS drill_of_song;
ALTER TABLE week_drills ADD CONSTRAINT drill_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT drill_of_song FOREIGN KEY (teacher_id, song_id) REFERENCES songs (teacher_id, id) ON DELETE CASCADE;
