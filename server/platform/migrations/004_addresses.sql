-- Dates at the front of names, and the addresses under which pages have been delivered.
ALTER TABLE pages
  ADD COLUMN dated boolean NOT NULL DEFAULT false,
  ADD COLUMN date text,
  ADD COLUMN addresses text[] NOT NULL DEFAULT '{}';
