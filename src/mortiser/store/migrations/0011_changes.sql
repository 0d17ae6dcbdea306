-- What the last revisions of a project touched: so that a page catches up without reading everything
-- again, and an edit made against an older one can be told from one that comes too late.
CREATE TABLE revision_change (
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    revision INTEGER NOT NULL,
    kind TEXT NOT NULL CHECK (kind IN ('edit', 'follow', 'step')),
    touched TEXT NOT NULL,
    rewritten TEXT NOT NULL,
    settings INTEGER NOT NULL,
    PRIMARY KEY (project_id, revision)
) STRICT, WITHOUT ROWID;
