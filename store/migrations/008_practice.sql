-- What people practise: their own, by name, and no part of any tree's log.
-- +goose Up
-- A card that is being asked; it is gone once it was answered.
CREATE TABLE asked (
    id     TEXT PRIMARY KEY,
    by     TEXT NOT NULL,
    card   TEXT NOT NULL,
    seed   INTEGER NOT NULL,
    odd    REAL NOT NULL,
    region TEXT NOT NULL,
    list   TEXT NOT NULL,
    at     TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE review (
    id        TEXT PRIMARY KEY, -- of the card as it was asked
    by        TEXT NOT NULL,
    card      TEXT NOT NULL,
    seed      INTEGER NOT NULL,
    at        TEXT NOT NULL,
    rank      TEXT NOT NULL, -- of the name that was said
    said      TEXT NOT NULL, -- empty: not known
    sure      TEXT NOT NULL,
    seconds   REAL NOT NULL,
    verdict   TEXT NOT NULL,
    taken_for TEXT NOT NULL,
    is_true   INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
CREATE INDEX review_by ON review (by, at);

-- +goose Down
DROP TABLE review;
DROP TABLE asked;
