-- On a device that a tract was taken along on.
-- +goose Up
-- What was entered on this device: 0 home has it, 1 it waits, 2 home refused it; NULL it
-- came from home. refusal says why.
ALTER TABLE entry ADD COLUMN away INTEGER;
CREATE INDEX entry_by_away ON entry (away, seq) WHERE away IS NOT NULL;

CREATE TABLE refusal (
    entry_id TEXT PRIMARY KEY REFERENCES entry (id),
    why      TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- Files of photographs where there is no folder beside the book; waits: home does not
-- have it yet.
CREATE TABLE file (
    name  TEXT PRIMARY KEY,
    body  BLOB NOT NULL,
    waits INTEGER NOT NULL DEFAULT 0
) STRICT;

-- +goose Down
-- What was entered on a device and did not come home would be lost.
SELECT json("there is no way back from here: restore the latest backup");
