-- +goose Up
-- Whoever could sign in before could do everything.
ALTER TABLE person ADD COLUMN role TEXT NOT NULL DEFAULT 'owner';
