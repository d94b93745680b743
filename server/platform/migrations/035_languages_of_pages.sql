-- The language of a page and of those below it, where it is another than that of its place.
ALTER TABLE pages ADD COLUMN language text;
