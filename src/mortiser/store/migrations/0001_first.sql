CREATE TABLE project (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL,
    created_us INTEGER NOT NULL,
    changed_us INTEGER NOT NULL,
    revision INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE source (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    path TEXT NOT NULL,
    proxy_path TEXT,
    kind TEXT NOT NULL CHECK (kind IN ('video', 'audio')),
    size_bytes INTEGER NOT NULL,
    duration_us INTEGER NOT NULL CHECK (duration_us > 0),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    rotation INTEGER NOT NULL,
    frame_count INTEGER NOT NULL,
    frame_rate REAL NOT NULL,
    variable_rate INTEGER NOT NULL,
    audio_tracks INTEGER NOT NULL,
    video_codec TEXT,
    audio_codec TEXT,
    playable INTEGER NOT NULL
) STRICT;
CREATE INDEX source_project ON source (project_id);

CREATE TABLE word (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    source_id INTEGER NOT NULL REFERENCES source (id) ON DELETE CASCADE,
    text TEXT NOT NULL,
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us >= start_us),
    confidence REAL,
    speaker TEXT,
    origin TEXT NOT NULL CHECK (origin IN ('heard', 'typed', 'imported', 'tapped')),
    aligned INTEGER NOT NULL
) STRICT;
CREATE INDEX word_source ON word (source_id, start_us);

CREATE TABLE piece (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    finish TEXT NOT NULL,
    grouping TEXT NOT NULL
) STRICT;
CREATE INDEX piece_project ON piece (project_id);

CREATE TABLE span (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    source_id INTEGER NOT NULL REFERENCES source (id),
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us),
    UNIQUE (piece_id, position)
) STRICT;

CREATE TABLE cue (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us),
    start_pinned INTEGER NOT NULL,
    end_pinned INTEGER NOT NULL
) STRICT;
CREATE INDEX cue_piece ON cue (piece_id, start_us, id);

CREATE TABLE cue_word (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    cue_id INTEGER NOT NULL REFERENCES cue (id) ON DELETE CASCADE,
    word_id INTEGER NOT NULL REFERENCES word (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    UNIQUE (cue_id, position)
) STRICT;
CREATE INDEX cue_word_word ON cue_word (word_id);

-- The edit journal: one entry an edit, with every row it changed as it was and as it became.
CREATE TABLE edit_entry (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    label TEXT NOT NULL,
    command TEXT NOT NULL,
    made_us INTEGER NOT NULL,
    undone INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX edit_entry_project ON edit_entry (project_id, id);

CREATE TABLE edit_change (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    entry_id INTEGER NOT NULL REFERENCES edit_entry (id) ON DELETE CASCADE,
    table_name TEXT NOT NULL,
    row_id INTEGER NOT NULL,
    before TEXT,
    after TEXT
) STRICT;
CREATE INDEX edit_change_entry ON edit_change (entry_id);

-- The row is the truth about a job; the queue only says that there is one to look at.
CREATE TABLE job (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    payload TEXT NOT NULL,
    status TEXT NOT NULL CHECK (status IN ('queued', 'running', 'done', 'failed', 'cancelled')),
    progress REAL NOT NULL DEFAULT 0,
    error TEXT,
    attempts INTEGER NOT NULL DEFAULT 0,
    cancel_asked INTEGER NOT NULL DEFAULT 0,
    lease_until_us INTEGER NOT NULL DEFAULT 0,
    created_us INTEGER NOT NULL,
    started_us INTEGER,
    finished_us INTEGER
) STRICT;
CREATE INDEX job_project ON job (project_id);
CREATE INDEX job_status ON job (status);

CREATE TABLE delivery (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    stem TEXT NOT NULL,
    revision INTEGER NOT NULL,
    files TEXT NOT NULL DEFAULT '[]'
) STRICT;
CREATE INDEX delivery_piece ON delivery (piece_id);
