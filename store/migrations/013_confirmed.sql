-- What confirms the name written down, and the chance that the evidence gives that name now. Trees that have
-- a name are weighed again for it.
-- +goose Up
ALTER TABLE standing ADD COLUMN given_seen TEXT NOT NULL DEFAULT '';
ALTER TABLE standing ADD COLUMN given_now REAL NOT NULL DEFAULT 0;
UPDATE standing SET basis = '' WHERE given_rank <> '';

-- +goose Down
ALTER TABLE standing DROP COLUMN given_now;
ALTER TABLE standing DROP COLUMN given_seen;
