-- Addresses that were sent by mail, good for an hour and once: to choose a new password, or to take another address.
CREATE TABLE mailed_links (
  token_hash bytea PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  kind text NOT NULL CHECK (kind IN ('password', 'address')),
  -- Of 'address': the one to take.
  email text,
  ends_at timestamptz NOT NULL
);
CREATE INDEX mailed_links_by_account ON mailed_links (account_id);
CREATE INDEX mailed_links_by_end ON mailed_links (ends_at);
