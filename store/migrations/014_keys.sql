-- What a tag is found by: its letters in small ones, without spaces.
-- +goose Up
ALTER TABLE tree ADD COLUMN key TEXT NOT NULL DEFAULT '';
UPDATE tree SET key = lower(replace(tag, ' ', ''));
CREATE INDEX tree_by_key ON tree (tract_id, key);
DROP INDEX tree_by_tag;

-- +goose Down
CREATE INDEX tree_by_tag ON tree (tract_id, tag);
DROP INDEX tree_by_key;
ALTER TABLE tree DROP COLUMN key;
