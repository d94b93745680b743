-- What a site is brought in by comes in several requests too, where it is large: a ZIP, or a file of a folder.
ALTER TABLE uploads ALTER COLUMN site_id DROP NOT NULL;
ALTER TABLE uploads ADD COLUMN bringing_id uuid REFERENCES bringings ON DELETE CASCADE;
ALTER TABLE uploads ADD CHECK (num_nonnulls(site_id, bringing_id) = 1);
CREATE INDEX uploads_by_bringing ON uploads (bringing_id);
-- All of it came and was taken, and what had come was let go of: asked for again, it is not taken again.
ALTER TABLE uploads ADD COLUMN is_taken boolean NOT NULL DEFAULT false;
