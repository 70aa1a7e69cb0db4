-- +goose Up
-- The index of words knows the intake of each line, and the beginnings of words: a beginning that most submissions have is then read
-- from its newest end, where it was first merged from all its words. Lengths of five and seven are read from the next one.
CREATE VIRTUAL TABLE term USING fts5vocab(submission_words, instance);
CREATE TABLE words_before AS
  SELECT doc, group_concat(term, ' ') AS words FROM (SELECT doc, term FROM term ORDER BY doc, offset) GROUP BY doc;
DROP TABLE term;
DROP TABLE submission_words;
CREATE VIRTUAL TABLE submission_words USING fts5 (
  words, intake, content='', contentless_delete=1, prefix='2 3 4 6 8', tokenize="unicode61 remove_diacritics 2");
INSERT INTO submission_words (rowid, words, intake)
  SELECT w.doc, w.words, s.intake FROM words_before w JOIN submission s ON s.id = w.doc ORDER BY w.doc;
DROP TABLE words_before;
