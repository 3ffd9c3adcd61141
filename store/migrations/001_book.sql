-- +goose Up
CREATE TABLE tract (
    id   TEXT PRIMARY KEY,
    name TEXT NOT NULL UNIQUE
) STRICT;

CREATE TABLE stand (
    id       TEXT PRIMARY KEY,
    tract_id TEXT NOT NULL REFERENCES tract (id),
    name     TEXT NOT NULL,
    UNIQUE (tract_id, name)
) STRICT;

CREATE TABLE tree (
    id       TEXT PRIMARY KEY,
    stand_id TEXT NOT NULL REFERENCES stand (id),
    tract_id TEXT NOT NULL REFERENCES tract (id),
    tag      TEXT NOT NULL,
    region   TEXT NOT NULL,
    UNIQUE (tract_id, tag)
) STRICT;

CREATE INDEX tree_by_stand ON tree (stand_id, tag);

-- What happened to a tree, added to and never changed.
CREATE TABLE entry (
    id      TEXT PRIMARY KEY,
    tree_id TEXT NOT NULL REFERENCES tree (id),
    body    TEXT NOT NULL CHECK (json_valid(body))
) STRICT;

CREATE INDEX entry_by_tree ON entry (tree_id, id);

-- +goose Down
DROP TABLE entry;
DROP TABLE tree;
DROP TABLE stand;
DROP TABLE tract;
