-- Sample points of stands, as each stands after its entries.
-- +goose Up
CREATE TABLE plot (
    id       TEXT PRIMARY KEY,
    stand_id TEXT NOT NULL REFERENCES stand (id),
    body     TEXT NOT NULL CHECK (json_valid(body))
) STRICT, WITHOUT ROWID;
CREATE INDEX plot_stand ON plot (stand_id);
