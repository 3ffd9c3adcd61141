-- When a device was heard of last, and how much it then held that home does not have.
-- +goose Up
ALTER TABLE device ADD COLUMN met TEXT NOT NULL DEFAULT '';
ALTER TABLE device ADD COLUMN holds INTEGER NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE device DROP COLUMN holds;
ALTER TABLE device DROP COLUMN met;
