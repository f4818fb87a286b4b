-- +goose Up
-- The old places and histories go, and every row is bound to its owner by
-- composite keys: a row of one teacher cannot hang on another teacher's.
ALTER TABLE placements DROP COLUMN step;
ALTER TABLE log_entries DROP COLUMN step;
ALTER TABLE week_drills DROP COLUMN bar;
ALTER TABLE ladders DROP COLUMN steps, DROP COLUMN part, DROP COLUMN build_order;
DROP TABLE song_history;
DROP TABLE ladder_history;

ALTER TABLE classes ADD UNIQUE KEY owned (teacher_id, id);
ALTER TABLE students ADD UNIQUE KEY owned (teacher_id, id);
ALTER TABLE songs ADD UNIQUE KEY owned (teacher_id, id);
ALTER TABLE ladders ADD UNIQUE KEY owned (teacher_id, id);
ALTER TABLE played_steps ADD UNIQUE KEY owned (teacher_id, id);
ALTER TABLE log_entries ADD UNIQUE KEY owned (teacher_id, id), ADD KEY of_ladder (teacher_id, ladder_id, at);

ALTER TABLE classes DROP FOREIGN KEY classes_ibfk_1;
ALTER TABLE classes ADD CONSTRAINT class_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE;
ALTER TABLE students DROP FOREIGN KEY students_ibfk_1, DROP FOREIGN KEY students_ibfk_2;
ALTER TABLE students ADD CONSTRAINT student_of_class FOREIGN KEY (teacher_id, class_id) REFERENCES classes (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE songs DROP FOREIGN KEY songs_ibfk_1;
ALTER TABLE songs ADD CONSTRAINT song_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE;
ALTER TABLE patterns DROP FOREIGN KEY patterns_ibfk_1;
ALTER TABLE patterns ADD CONSTRAINT pattern_of_teacher FOREIGN KEY (teacher_id) REFERENCES teachers (id) ON DELETE CASCADE;
ALTER TABLE ladders DROP FOREIGN KEY ladders_ibfk_1, DROP FOREIGN KEY ladders_ibfk_2, DROP FOREIGN KEY ladders_ibfk_3;
ALTER TABLE ladders ADD CONSTRAINT ladder_of_class FOREIGN KEY (teacher_id, class_id) REFERENCES classes (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT ladder_of_song FOREIGN KEY (teacher_id, song_id) REFERENCES songs (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE placements DROP FOREIGN KEY placements_ibfk_1, DROP FOREIGN KEY placements_ibfk_2;
ALTER TABLE placements ADD CONSTRAINT place_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT place_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE song_revisions ADD CONSTRAINT revision_of_song FOREIGN KEY (teacher_id, document_id) REFERENCES songs (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE ladder_revisions ADD CONSTRAINT revision_of_ladder FOREIGN KEY (teacher_id, document_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE revision_places ADD CONSTRAINT place_in_revision FOREIGN KEY (ladder_id, n) REFERENCES ladder_revisions (document_id, n) ON DELETE CASCADE,
    ADD CONSTRAINT revision_place_of_student FOREIGN KEY (student_id) REFERENCES students (id) ON DELETE CASCADE;
ALTER TABLE played_steps ADD CONSTRAINT played_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE;
ALTER TABLE log_entries DROP FOREIGN KEY log_entries_ibfk_1, DROP FOREIGN KEY log_entries_ibfk_2, DROP FOREIGN KEY log_entries_ibfk_3, DROP FOREIGN KEY log_entries_ibfk_4;
ALTER TABLE log_entries MODIFY played_id BIGINT NOT NULL,
    ADD CONSTRAINT entry_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT entry_on_ladder FOREIGN KEY (teacher_id, ladder_id) REFERENCES ladders (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT entry_as_played FOREIGN KEY (teacher_id, played_id) REFERENCES played_steps (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT entry_withdraws FOREIGN KEY (withdraws) REFERENCES log_entries (id) ON DELETE CASCADE;
ALTER TABLE week_drills DROP FOREIGN KEY week_drills_ibfk_1, DROP FOREIGN KEY week_drills_ibfk_2, DROP FOREIGN KEY week_drills_ibfk_3;
ALTER TABLE week_drills ADD CONSTRAINT drill_of_student FOREIGN KEY (teacher_id, student_id) REFERENCES students (teacher_id, id) ON DELETE CASCADE,
    ADD CONSTRAINT drill_of_song FOREIGN KEY (teacher_id, song_id) REFERENCES songs (teacher_id, id) ON DELETE CASCADE;
