-- Deliveries that end: how often one was taken up, so that one that always ends its worker is given up.
ALTER TABLE deliveries ADD COLUMN attempts int NOT NULL DEFAULT 0;
-- What was delivered while it was under way is the site as the worker found it.
ALTER TABLE deliveries ADD COLUMN sent_revision bigint;
CREATE INDEX deliveries_open ON deliveries (asked_at) WHERE state IN ('waiting', 'running');

-- Whoever works at a destination holds it, for as long as it renews the hold: one at a time in one place.
CREATE TABLE destination_holds (
  destination_id uuid PRIMARY KEY REFERENCES destinations ON DELETE CASCADE,
  holder uuid NOT NULL,
  held_until timestamptz NOT NULL
);
CREATE INDEX destinations_by_place ON destinations (host, port, account);
