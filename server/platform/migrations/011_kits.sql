-- Kits that an account keeps for its next sites: scheme, templates and files under a name.
CREATE TABLE kits (
  id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  name text NOT NULL CHECK (length(name) BETWEEN 1 AND 100),
  kit jsonb NOT NULL,
  kept_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (account_id, name)
);

-- What they hold, so that it is not collected.
CREATE TABLE kit_contents (
  kit_id uuid NOT NULL REFERENCES kits ON DELETE CASCADE,
  hash text NOT NULL REFERENCES blobs,
  PRIMARY KEY (kit_id, hash)
);
CREATE INDEX kit_contents_by_hash ON kit_contents (hash);
