-- A sound that was recorded apart, and how it lies under a recording: a moment t of the recording is
-- t * (1 + drift_ppm / 1e6) + offset_us of the sound.
CREATE TABLE microphone (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    source_id INTEGER NOT NULL UNIQUE REFERENCES source (id) ON DELETE CASCADE,
    sound_id INTEGER NOT NULL REFERENCES source (id) ON DELETE CASCADE,
    offset_us INTEGER NOT NULL,
    drift_ppm REAL NOT NULL,
    sure REAL NOT NULL
) STRICT;
CREATE INDEX microphone_sound ON microphone (sound_id);
