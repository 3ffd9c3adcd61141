-- Check cruises: which trees somebody names again, and what came of it. While one goes on, what
-- its checker enters is kept in a book of its own beside this one.
-- +goose Up
CREATE TABLE check_cruise (
    id      TEXT PRIMARY KEY,
    checker TEXT NOT NULL,
    plan    TEXT NOT NULL CHECK (json_valid(plan)),
    ended   TEXT,          -- when it was finished or given up
    came    TEXT CHECK (came IS NULL OR json_valid(came)) -- of it; NULL: it goes on, or was given up
) STRICT, WITHOUT ROWID;

-- Trees that were seen in leaf, flower or fruit.
CREATE INDEX entry_confirms ON entry (tree_id) WHERE body ->> '$.name.seen' IS NOT NULL;

-- What somebody, or the lead for the crew, wants to be able to name.
CREATE TABLE deck (
    id   TEXT PRIMARY KEY,
    by   TEXT NOT NULL,
    body TEXT NOT NULL CHECK (json_valid(body))
) STRICT, WITHOUT ROWID;

-- Who shows their practice to the leads.
CREATE TABLE practice_shared (by TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;

-- Walks through woods that do not exist: what is hidden until the end, and what was done there.
CREATE TABLE walk (
    id    TEXT PRIMARY KEY,
    by    TEXT NOT NULL,
    body  TEXT NOT NULL CHECK (json_valid(body)),
    ended TEXT
) STRICT, WITHOUT ROWID;
CREATE INDEX walk_by ON walk (by, id);

-- +goose Down
DROP TABLE walk;
DROP TABLE practice_shared;
DROP TABLE deck;
DROP INDEX entry_confirms;
DROP TABLE check_cruise;
