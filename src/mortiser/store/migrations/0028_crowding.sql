-- Whether captions show at once is asked at every edit: from the index alone.
DROP INDEX cue_piece;
CREATE INDEX cue_piece ON cue (piece_id, start_us, id, end_us);
