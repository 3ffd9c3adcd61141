-- One word for a thing: a tree's region is the flora's and its list has a column of
-- its own; what the map shows beside the trees is the terrain; what a tree gives
-- each taxon is a posterior, not a share.
-- +goose Up
ALTER TABLE tract RENAME COLUMN ground TO terrain;

ALTER TABLE tree ADD COLUMN list TEXT NOT NULL DEFAULT '';
-- Counts the changes of a tree, its log's and its place's.
ALTER TABLE tree ADD COLUMN version INTEGER NOT NULL DEFAULT 0;

-- Where a list stood in place of a region: what it is called goes to the list's
-- field, and the region is the list's own, or the home region where the list came
-- from a file.
UPDATE tree SET list = region, region = coalesce((SELECT body ->> '$.region' FROM list WHERE name = tree.region), 'eastern-north-america')
WHERE region IN (SELECT name FROM list) OR region NOT IN ('eastern-north-america', 'british-isles');

UPDATE entry SET body = json_remove(json_set(body, '$.facts.among',
    CASE WHEN body ->> '$.facts.region' IN ('', 'eastern-north-america', 'british-isles')
        AND body ->> '$.facts.region' NOT IN (SELECT name FROM list)
    THEN json_object('region', body ->> '$.facts.region')
    ELSE json_object('region', coalesce((SELECT list.body ->> '$.region' FROM list WHERE list.name = entry.body ->> '$.facts.region'),
            'eastern-north-america'),
        'list', body ->> '$.facts.region') END), '$.facts.region')
WHERE body ->> '$.kind' = 'facts' AND body -> '$.facts.region' IS NOT NULL;

-- Standings are worked out again when the book is opened.
DELETE FROM standing;
ALTER TABLE standing RENAME COLUMN leader_share TO leader_posterior;
ALTER TABLE standing ADD COLUMN list TEXT NOT NULL DEFAULT '';
DROP INDEX tree_by_region;
CREATE INDEX tree_by_list ON tree (list) WHERE list <> '';

DROP TABLE share;
-- Each tree's posterior over the taxa that still count, with its stand and basal
-- area, so that a stand is added up from one index.
CREATE TABLE posterior (
    tree_id    TEXT NOT NULL REFERENCES tree (id),
    taxon      TEXT NOT NULL,
    tract      TEXT NOT NULL,
    stand      TEXT NOT NULL,
    p          REAL NOT NULL,
    area_m2    REAL NOT NULL,
    determined INTEGER NOT NULL,
    PRIMARY KEY (tree_id, taxon)
) STRICT, WITHOUT ROWID;

CREATE INDEX posterior_by_stand ON posterior (tract, stand, taxon, p, area_m2, determined);

-- What the book was served with last, and the like.
CREATE TABLE setting (
    name  TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;

-- +goose Down
DROP TABLE setting;
DROP TABLE posterior;
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
DROP INDEX tree_by_list;
CREATE INDEX tree_by_region ON tree (region);
DELETE FROM standing;
ALTER TABLE standing DROP COLUMN list;
ALTER TABLE standing RENAME COLUMN leader_posterior TO leader_share;
UPDATE entry SET body = json_remove(json_set(body, '$.facts.region',
    coalesce(body ->> '$.facts.among.list', body ->> '$.facts.among.region')), '$.facts.among')
WHERE body ->> '$.kind' = 'facts' AND body -> '$.facts.among' IS NOT NULL;
UPDATE tree SET region = list WHERE list <> '';
ALTER TABLE tree DROP COLUMN version;
ALTER TABLE tree DROP COLUMN list;
ALTER TABLE tract RENAME COLUMN terrain TO ground;
