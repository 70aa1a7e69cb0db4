-- +goose Up
ALTER TABLE submission ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
CREATE TABLE document_revision (
  submission INTEGER NOT NULL REFERENCES submission, key TEXT NOT NULL, revision INTEGER NOT NULL, name TEXT NOT NULL, file_name TEXT NOT NULL,
  pages INTEGER NOT NULL, size INTEGER NOT NULL, made INTEGER NOT NULL, pdf BLOB NOT NULL, PRIMARY KEY (submission, key, revision));
INSERT INTO document_revision SELECT submission, key, 1, name, file_name, pages, size, made, pdf FROM document;
DROP TABLE document;
ALTER TABLE document_revision RENAME TO document;
