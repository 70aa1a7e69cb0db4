-- +goose Up
-- A house that was made of a backup does nothing outside until somebody lets it: one row, or none.
CREATE TABLE rest (house TEXT PRIMARY KEY CHECK (house = 'all'), since INTEGER NOT NULL) WITHOUT ROWID;
