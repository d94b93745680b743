-- Findings that were put aside, and what a page may weigh.
ALTER TABLE sites ADD COLUMN checking jsonb NOT NULL DEFAULT '{"asides": {}, "mostPageBytes": 1000000}';
