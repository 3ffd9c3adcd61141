-- How sure a name written down is, and what the evidence makes probable.
-- +goose Up
ALTER TABLE standing ADD COLUMN given_step TEXT NOT NULL DEFAULT '';
ALTER TABLE standing ADD COLUMN probable_rank TEXT NOT NULL DEFAULT '';
ALTER TABLE standing ADD COLUMN probable TEXT NOT NULL DEFAULT '';
ALTER TABLE standing ADD COLUMN probable_posterior REAL NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE standing DROP COLUMN probable_posterior;
ALTER TABLE standing DROP COLUMN probable;
ALTER TABLE standing DROP COLUMN probable_rank;
ALTER TABLE standing DROP COLUMN given_step;
