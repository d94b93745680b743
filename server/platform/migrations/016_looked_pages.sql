-- What was found on finished pages, by what they are made of: the same page is not looked at twice.
CREATE TABLE looked_pages (
  hash text PRIMARY KEY,
  faults jsonb NOT NULL,
  looked_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX looked_pages_by_age ON looked_pages (looked_at);
