-- +goose Up
-- The filled word-processor file of a document, where notices or filings take it besides the PDF, or instead.
CREATE TABLE docx (document INTEGER PRIMARY KEY REFERENCES document, bytes BLOB NOT NULL);
