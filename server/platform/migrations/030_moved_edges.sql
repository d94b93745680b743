-- Where the author of files that wait moved the edges of slots; null where they are as they were found.
ALTER TABLE bringings ADD COLUMN marks jsonb;
