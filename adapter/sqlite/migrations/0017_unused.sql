-- +goose Up
-- Since when no design speaks of a file that was brought: it is forgotten later, so that what is undone finds it again.
ALTER TABLE brought ADD COLUMN unused INTEGER;
