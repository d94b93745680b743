-- Naming schemes an account keeps for its next sites, and advice it does not want to see again.
CREATE TABLE saved_schemes (
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 100),
  scheme jsonb NOT NULL,
  saved_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (account_id, name)
);

CREATE TABLE dismissed_advice (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  key text NOT NULL CHECK (length(key) <= 200),
  PRIMARY KEY (site_id, key)
);
