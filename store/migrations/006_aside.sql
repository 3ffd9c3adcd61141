-- Trees that were set aside are found again by place.
-- +goose Up
CREATE INDEX standing_aside ON standing (tract, stand, tag, tree_id) WHERE aside = 1;

-- +goose Down
DROP INDEX standing_aside;
