-- A photograph whose file is still on a device is expected, not lost.
-- +goose Up
ALTER TABLE photo ADD COLUMN arrived INTEGER NOT NULL DEFAULT 1;

-- +goose Down
ALTER TABLE photo DROP COLUMN arrived;
