-- +goose Up
ALTER TABLE document ADD COLUMN code TEXT;
ALTER TABLE document ADD COLUMN sha256 TEXT;
UPDATE document SET sha256 = sha256(pdf);
CREATE UNIQUE INDEX document_code ON document (code) WHERE code IS NOT NULL;
CREATE INDEX document_sha256 ON document (sha256);
