-- +goose Up
-- A PDF that documents are printed on is taken apart once; what came of it is kept beside it, as package ground writes it.
ALTER TABLE brought ADD COLUMN ground BLOB;
