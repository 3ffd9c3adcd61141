-- +goose Up
-- Tracts and stands on the ground: boundaries as GeoJSON geometries, what else
-- the map shows of a tract as a GeoJSON feature collection.
ALTER TABLE tract ADD COLUMN boundary TEXT CHECK (boundary IS NULL OR json_valid(boundary));
ALTER TABLE tract ADD COLUMN ground TEXT CHECK (ground IS NULL OR json_valid(ground));
ALTER TABLE tract ADD COLUMN remarks TEXT NOT NULL DEFAULT '';
ALTER TABLE stand ADD COLUMN boundary TEXT CHECK (boundary IS NULL OR json_valid(boundary));
ALTER TABLE stand ADD COLUMN remarks TEXT NOT NULL DEFAULT '';

-- A day's walk in a tract.
CREATE TABLE visit (
    id       TEXT PRIMARY KEY,
    tract_id TEXT NOT NULL REFERENCES tract (id),
    day      TEXT NOT NULL CHECK (day GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]'),
    crew     TEXT NOT NULL DEFAULT '',
    weather  TEXT NOT NULL DEFAULT '',
    snow     TEXT NOT NULL DEFAULT 'none',
    remarks  TEXT NOT NULL DEFAULT ''
) STRICT;

CREATE INDEX visit_by_day ON visit (tract_id, day);

-- The visit of each entry that opens a look.
ALTER TABLE entry ADD COLUMN visit_id TEXT REFERENCES visit (id);
CREATE INDEX entry_by_visit ON entry (visit_id);

-- A file that was read in, so that it can be undone.
CREATE TABLE import (
    id     TEXT PRIMARY KEY,
    name   TEXT NOT NULL,
    by     TEXT NOT NULL,
    at     TEXT NOT NULL,
    trees  INTEGER NOT NULL,
    undone TEXT
) STRICT;

ALTER TABLE tree ADD COLUMN import_id TEXT REFERENCES import (id);
CREATE INDEX tree_by_import ON tree (import_id);
ALTER TABLE entry ADD COLUMN added_by TEXT REFERENCES import (id);
CREATE INDEX entry_by_import ON entry (added_by) WHERE added_by IS NOT NULL;

-- Where each tree stands, worked out from its log and kept so that lists need not
-- rank, with its place, so that lists need not join. basis says with which flora;
-- lines of another are worked out again.
CREATE TABLE standing (
    tree_id         TEXT PRIMARY KEY REFERENCES tree (id),
    tract           TEXT NOT NULL,
    stand           TEXT NOT NULL,
    tag             TEXT NOT NULL,
    region          TEXT NOT NULL,
    basis           TEXT NOT NULL,
    status          TEXT NOT NULL,
    named_rank      TEXT NOT NULL,
    named           TEXT NOT NULL,
    named_words     TEXT NOT NULL,
    named_posterior REAL NOT NULL,
    leader          TEXT NOT NULL,
    leader_share    REAL NOT NULL,
    second          TEXT NOT NULL,
    given_rank      TEXT NOT NULL,
    given           TEXT NOT NULL,
    given_by        TEXT NOT NULL,
    given_at        TEXT NOT NULL,
    given_posterior REAL NOT NULL,
    doubt           TEXT NOT NULL,
    doubts          INTEGER NOT NULL,
    looks           INTEGER NOT NULL,
    scores          INTEGER NOT NULL,
    last            TEXT NOT NULL,
    age             TEXT NOT NULL,
    vigour          TEXT NOT NULL,
    remarks         TEXT NOT NULL,
    dbh_cm          REAL NOT NULL,
    area_m2         REAL NOT NULL,
    height_m        REAL NOT NULL,
    lon             REAL,
    lat             REAL,
    next_character  TEXT NOT NULL,
    next_from       TEXT NOT NULL,
    next_reach      TEXT NOT NULL,
    next_bits       REAL NOT NULL,
    next_seconds    INTEGER NOT NULL,
    candidates      TEXT NOT NULL CHECK (json_valid(candidates)),
    aside           INTEGER NOT NULL
) STRICT, WITHOUT ROWID;

-- Each way to sort or filter has an index that answers it alone.
CREATE INDEX standing_by_place ON standing (tract, stand, tag, status) WHERE aside = 0;
CREATE INDEX standing_by_tag ON standing (tag) WHERE aside = 0;
CREATE INDEX standing_by_status ON standing (status, tract, stand, tag) WHERE aside = 0;
CREATE INDEX standing_by_worth ON standing (next_bits DESC, status) WHERE aside = 0;
CREATE INDEX standing_by_last ON standing (last DESC, status) WHERE aside = 0;
CREATE INDEX standing_by_leader ON standing (leader) WHERE aside = 0;
CREATE INDEX standing_by_given ON standing (given) WHERE aside = 0;
CREATE INDEX standing_by_remarks ON standing (remarks) WHERE aside = 0 AND remarks <> '';

-- Each tree's posterior over the taxa that still count, with its stand and basal
-- area, so that a stand is added up from one index.
CREATE TABLE share (
    tree_id    TEXT NOT NULL REFERENCES tree (id),
    taxon      TEXT NOT NULL,
    tract      TEXT NOT NULL,
    stand      TEXT NOT NULL,
    p          REAL NOT NULL,
    area_m2    REAL NOT NULL,
    determined INTEGER NOT NULL,
    PRIMARY KEY (tree_id, taxon)
) STRICT, WITHOUT ROWID;

CREATE INDEX share_by_place ON share (tract, stand, taxon, p, area_m2, determined);

-- A photograph of a look; its file lies beside the book under its digest.
CREATE TABLE photo (
    id      TEXT PRIMARY KEY,
    tree_id TEXT NOT NULL REFERENCES tree (id),
    look_id TEXT NOT NULL,
    digest  TEXT NOT NULL,
    kind    TEXT NOT NULL,
    bytes   INTEGER NOT NULL,
    width   INTEGER NOT NULL,
    height  INTEGER NOT NULL,
    taken   TEXT NOT NULL DEFAULT '',
    lon     REAL,
    lat     REAL,
    by      TEXT NOT NULL DEFAULT '',
    caption TEXT NOT NULL DEFAULT '',
    gone    INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE INDEX photo_by_tree ON photo (tree_id, id);

-- The crew, and who is signed in.
CREATE TABLE account (
    id       TEXT PRIMARY KEY,
    name     TEXT NOT NULL UNIQUE COLLATE NOCASE,
    role     TEXT NOT NULL CHECK (role IN ('lead', 'observer', 'reader')),
    password TEXT NOT NULL,
    closed   INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE session (
    digest     TEXT PRIMARY KEY,
    account_id TEXT NOT NULL REFERENCES account (id),
    until      TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE session;
DROP TABLE account;
DROP TABLE photo;
DROP TABLE share;
DROP TABLE standing;
DROP INDEX entry_by_import;
ALTER TABLE entry DROP COLUMN added_by;
DROP INDEX tree_by_import;
ALTER TABLE tree DROP COLUMN import_id;
DROP TABLE import;
DROP INDEX entry_by_visit;
ALTER TABLE entry DROP COLUMN visit_id;
DROP TABLE visit;
ALTER TABLE stand DROP COLUMN remarks;
ALTER TABLE stand DROP COLUMN boundary;
ALTER TABLE tract DROP COLUMN remarks;
ALTER TABLE tract DROP COLUMN ground;
ALTER TABLE tract DROP COLUMN boundary;
