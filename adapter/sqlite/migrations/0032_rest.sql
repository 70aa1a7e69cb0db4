-- +goose Up
-- A house that was made of a backup does nothing outside until somebody lets it.
CREATE TABLE rest (id INTEGER PRIMARY KEY CHECK (id = 1), since INTEGER NOT NULL);
