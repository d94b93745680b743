-- Files of a site that exists already, while it is looked at and before it is brought in.
CREATE TABLE bringings (
  id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  name text NOT NULL CHECK (length(name) <= 200),
  touched_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX bringings_by_account ON bringings (account_id);

CREATE TABLE brought_files (
  bringing_id uuid NOT NULL REFERENCES bringings ON DELETE CASCADE,
  path text NOT NULL,
  hash text NOT NULL REFERENCES blobs,
  size_bytes bigint NOT NULL,
  PRIMARY KEY (bringing_id, path)
);
CREATE INDEX brought_files_by_hash ON brought_files (hash);
