-- The plan of a site that waits to be brought in, as its author corrected it; null for the one that is found.
ALTER TABLE bringings ADD COLUMN plan jsonb;
