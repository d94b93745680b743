-- Pages of one set are one page in several languages.
ALTER TABLE pages ADD COLUMN translation_set text;
