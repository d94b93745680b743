-- The latest ZIP of a site that an account took, by the hashes of its files: what has changed since can be taken by itself.
CREATE TABLE taken_zips (
  site_id uuid NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  account_id uuid NOT NULL REFERENCES accounts (id) ON DELETE CASCADE,
  taken_at timestamptz NOT NULL DEFAULT now(),
  hashes jsonb NOT NULL,
  PRIMARY KEY (site_id, account_id)
);
CREATE INDEX taken_zips_account ON taken_zips (account_id);
