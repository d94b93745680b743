-- What was sent before a destination was made another place is no state of the place that it is now.
ALTER TABLE deliveries ADD COLUMN elsewhere boolean NOT NULL DEFAULT false;
-- Delivered by itself when nothing has changed for so many minutes; null for never. The revision that was thought of last.
ALTER TABLE destinations
  ADD COLUMN by_itself_minutes int CHECK (by_itself_minutes BETWEEN 1 AND 10080),
  ADD COLUMN by_itself_revision bigint NOT NULL DEFAULT 0,
  ADD COLUMN by_itself_by uuid REFERENCES accounts ON DELETE SET NULL;
