-- +goose Up
-- For which server a secret was entered: it opens for no other. What was kept before is bound to its server at the next start.
ALTER TABLE secret ADD COLUMN door TEXT NOT NULL DEFAULT '';
