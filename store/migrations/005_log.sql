-- One log for all that can be entered, in an order of its own: what was said of trees,
-- visits, tracts, stands, lists and photographs. The other tables hold what stands.
-- +goose Up
CREATE TABLE entry_before AS SELECT rowid AS seq, id, tree_id, body, visit_id, added_by FROM entry;
CREATE TABLE photo_before AS SELECT * FROM photo;
DROP TABLE posterior;
DROP TABLE standing;
DROP TABLE photo;
DROP TABLE entry;

-- A tag is looked up before a tree is started; two trees of one tag may still come
-- from two devices.
CREATE TABLE tree_new (
    id        TEXT PRIMARY KEY,
    stand_id  TEXT NOT NULL REFERENCES stand (id),
    tract_id  TEXT NOT NULL REFERENCES tract (id),
    tag       TEXT NOT NULL,
    region    TEXT NOT NULL,
    list      TEXT NOT NULL DEFAULT '',
    version   INTEGER NOT NULL DEFAULT 0,
    import_id TEXT REFERENCES import (id)
) STRICT;
INSERT INTO tree_new SELECT id, stand_id, tract_id, tag, region, list, version, import_id FROM tree;
DROP TABLE tree;
ALTER TABLE tree_new RENAME TO tree;
CREATE INDEX tree_by_stand ON tree (stand_id, tag);
CREATE INDEX tree_by_tag ON tree (tract_id, tag);
CREATE INDEX tree_by_list ON tree (list) WHERE list <> '';
CREATE INDEX tree_by_import ON tree (import_id) WHERE import_id IS NOT NULL;

-- What was said, added to and never changed but for an order made earlier. seq is the
-- book's own running number, by which others ask for what is new.
CREATE TABLE entry (
    seq      INTEGER PRIMARY KEY,
    id       TEXT NOT NULL UNIQUE,
    stamp    TEXT NOT NULL,
    said     TEXT,
    tree_id  TEXT REFERENCES tree (id),
    about    TEXT,
    tract_id TEXT REFERENCES tract (id),
    body     TEXT NOT NULL CHECK (json_valid(body)),
    visit_id TEXT REFERENCES visit (id),
    added_by TEXT REFERENCES import (id),
    CHECK ((tree_id IS NULL) <> (about IS NULL))
) STRICT;

INSERT INTO entry (id, stamp, about, tract_id, body)
SELECT id, substr(id, 1, 10) || '0000.0', 'land' || char(31) || name || char(31), id,
    json_object('id', id, 'kind', 'land', 'land', json_patch(json_object('tract', name, 'remarks', remarks),
        json_object('boundary', json(boundary), 'terrain', json(terrain))))
FROM tract;
INSERT INTO entry (id, stamp, about, tract_id, body)
SELECT stand.id, substr(stand.id, 1, 10) || '0000.0', 'land' || char(31) || tract.name || char(31) || stand.name, tract.id,
    json_object('id', stand.id, 'kind', 'land', 'land', json_patch(
        json_object('tract', tract.name, 'stand', stand.name, 'remarks', stand.remarks), json_object('boundary', json(stand.boundary))))
FROM stand JOIN tract ON tract.id = stand.tract_id;
INSERT INTO entry (id, stamp, about, tract_id, body)
SELECT visit.id, substr(visit.id, 1, 10) || '0000.0', 'visit' || char(31) || visit.id, tract.id,
    json_object('id', visit.id, 'kind', 'visit', 'walk', json_object('id', visit.id, 'tract', tract.name, 'day', day, 'crew', crew,
        'weather', weather, 'snow', snow, 'remarks', visit.remarks))
FROM visit JOIN tract ON tract.id = visit.tract_id;
WITH new AS (SELECT name, body, '01KB000000' || upper(hex(randomblob(8))) AS id FROM list)
INSERT INTO entry (id, stamp, about, body)
SELECT id, substr(id, 1, 10) || '0000.0', 'list' || char(31) || name,
    json_object('id', id, 'kind', 'list', 'list', json_object('name', name, 'body', json(body)))
FROM new;
INSERT INTO entry (id, stamp, tree_id, body, added_by)
SELECT tree.id, substr(tree.id, 1, 10) || '0000.0', tree.id, json_object('id', tree.id, 'kind', 'start', 'start',
    json_object('tag', tag, 'tract', tract.name, 'stand', stand.name, 'region', region, 'list', list)), import_id
FROM tree JOIN tract ON tract.id = tree.tract_id JOIN stand ON stand.id = tree.stand_id;
INSERT INTO entry (id, stamp, tree_id, body, visit_id, added_by)
SELECT id, substr(id, 1, 10) || '0000.0', tree_id,
    CASE WHEN visit_id IS NULL THEN body ELSE json_set(body, '$.visit', visit_id) END, visit_id, added_by
FROM entry_before ORDER BY seq;
INSERT INTO entry (id, stamp, tree_id, body)
SELECT id, substr(id, 1, 10) || '0000.0', tree_id, json_object('id', id, 'kind', 'photo', 'by', by, 'look', look_id,
    'photo', json_object('digest', digest, 'kind', kind, 'bytes', bytes, 'width', width, 'height', height, 'taken', taken,
        'lon', lon, 'lat', lat, 'caption', caption))
FROM photo_before;
INSERT INTO entry (id, stamp, tree_id, body)
SELECT substr(id, 1, 20) || 'TAKEN0', substr(id, 1, 10) || '0001.0', tree_id,
    json_object('id', substr(id, 1, 20) || 'TAKEN0', 'kind', 'withdraw', 'by', by, 'entry', id)
FROM photo_before WHERE gone;
DROP TABLE entry_before;

CREATE INDEX entry_by_tree ON entry (tree_id, stamp, id) WHERE tree_id IS NOT NULL;
CREATE INDEX entry_by_place ON entry (about, stamp, id) WHERE about IS NOT NULL;
CREATE INDEX entry_by_visit ON entry (visit_id) WHERE visit_id IS NOT NULL;
CREATE INDEX entry_by_import ON entry (added_by) WHERE added_by IS NOT NULL;
CREATE INDEX entry_by_list ON entry (body ->> '$.facts.among.list') WHERE body ->> '$.facts.among.list' IS NOT NULL;

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
INSERT INTO photo SELECT * FROM photo_before;
DROP TABLE photo_before;
CREATE INDEX photo_by_tree ON photo (tree_id, id);

-- Posteriors that many trees have in common, as those of which nothing was scored:
-- taxa to chances, as JSON.
CREATE TABLE profile (
    id     INTEGER PRIMARY KEY,
    digest TEXT NOT NULL UNIQUE,
    body   TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

-- Where each tree stands, worked out from its log and kept so that lists need not
-- rank, with its place, so that lists need not join. basis says with which flora;
-- lines of another are worked out again. profile: its posteriors, where it shares
-- them. find: tag and remarks in small letters, to be searched.
-- alike: a digest of all that was scored, where that is next to nothing and many trees
-- have the same.
CREATE TABLE standing (
    tree_id          TEXT PRIMARY KEY REFERENCES tree (id),
    tract            TEXT NOT NULL,
    stand            TEXT NOT NULL,
    tag              TEXT NOT NULL,
    region           TEXT NOT NULL,
    list             TEXT NOT NULL,
    basis            TEXT NOT NULL,
    status           TEXT NOT NULL,
    named_rank       TEXT NOT NULL,
    named            TEXT NOT NULL,
    named_words      TEXT NOT NULL,
    named_posterior  REAL NOT NULL,
    leader           TEXT NOT NULL,
    leader_posterior REAL NOT NULL,
    second           TEXT NOT NULL,
    given_rank       TEXT NOT NULL,
    given            TEXT NOT NULL,
    given_by         TEXT NOT NULL,
    given_at         TEXT NOT NULL,
    given_posterior  REAL NOT NULL,
    doubt            TEXT NOT NULL,
    doubts           INTEGER NOT NULL,
    looks            INTEGER NOT NULL,
    scores           INTEGER NOT NULL,
    last             TEXT NOT NULL,
    age              TEXT NOT NULL,
    vigour           TEXT NOT NULL,
    remarks          TEXT NOT NULL,
    dbh_cm           REAL NOT NULL,
    area_m2          REAL NOT NULL,
    height_m         REAL NOT NULL,
    lon              REAL,
    lat              REAL,
    next_character   TEXT NOT NULL,
    next_from        TEXT NOT NULL,
    next_reach       TEXT NOT NULL,
    next_bits        REAL NOT NULL,
    next_seconds     INTEGER NOT NULL,
    candidates       TEXT NOT NULL CHECK (json_valid(candidates)),
    aside            INTEGER NOT NULL,
    profile          INTEGER REFERENCES profile (id),
    find             TEXT NOT NULL,
    unscored         INTEGER NOT NULL,
    alike            TEXT
) STRICT, WITHOUT ROWID;

-- Each way to sort or filter has an index that answers it alone.
CREATE INDEX standing_by_place ON standing (tract, stand, tag, tree_id, status) WHERE aside = 0;
CREATE INDEX standing_by_tag ON standing (tag, tree_id) WHERE aside = 0;
CREATE INDEX standing_by_status ON standing (status, tract, stand, tag) WHERE aside = 0;
CREATE INDEX standing_by_worth ON standing (next_bits DESC, tree_id, status) WHERE aside = 0;
CREATE INDEX standing_by_last ON standing (last DESC, tree_id, status) WHERE aside = 0;
CREATE INDEX standing_by_leader ON standing (leader, unscored, tract, stand, tag, tree_id, status, next_bits, last, given)
    WHERE aside = 0;
CREATE INDEX standing_by_given ON standing (given, unscored, tract, stand, tag, tree_id, status, next_bits, last, leader)
    WHERE aside = 0 AND given <> '';
CREATE INDEX standing_by_text ON standing (find, leader, given, tract, stand, tag, status, unscored, next_bits, last) WHERE aside = 0;
CREATE INDEX standing_by_basis ON standing (basis, region, list);
CREATE INDEX standing_by_alike ON standing (alike, region, list, basis) WHERE alike IS NOT NULL AND given_rank = '';

-- Each tree's posterior over the taxa that still count, as JSON, where it is its own.
CREATE TABLE posterior (
    tree_id TEXT PRIMARY KEY REFERENCES tree (id),
    body    TEXT NOT NULL CHECK (json_valid(body))
) STRICT, WITHOUT ROWID;

-- Counts the changes of what stands of its trees, so that sums can be kept.
ALTER TABLE stand ADD COLUMN changes INTEGER NOT NULL DEFAULT 0;

-- When a file was all put in; until then what it brought counts as not there.
ALTER TABLE import ADD COLUMN ended TEXT;
ALTER TABLE import ADD COLUMN beat TEXT NOT NULL DEFAULT '';
UPDATE import SET ended = at;

-- Devices that may send for one of the crew, and until when.
CREATE TABLE device (
    id         TEXT PRIMARY KEY,
    digest     TEXT NOT NULL UNIQUE,
    account_id TEXT NOT NULL REFERENCES account (id),
    name       TEXT NOT NULL,
    since      TEXT NOT NULL,
    until      TEXT NOT NULL,
    ended      INTEGER NOT NULL DEFAULT 0
) STRICT;

-- +goose Down
-- There is no way back that keeps what was entered since: restore the backup.
SELECT json("there is no way back from here: restore the latest backup");
