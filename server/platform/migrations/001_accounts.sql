-- Who may come in. Session tokens are kept as hashes only, so that a copy of the table opens nothing.
CREATE TABLE accounts (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  email text NOT NULL UNIQUE CHECK (email = lower(email)),
  password_hash text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE sessions (
  token_hash bytea PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  expires_at timestamptz NOT NULL
);
CREATE INDEX sessions_by_account ON sessions (account_id);

-- Failed attempts to sign in, by what they were aimed at (an e-mail address) and where they came from.
CREATE TABLE sign_in_failures (
  key text NOT NULL,
  failed_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX sign_in_failures_by_key ON sign_in_failures (key, failed_at);

-- What has been done once and for all, such as loading the demo site.
CREATE TABLE milestones (
  name text PRIMARY KEY,
  reached_at timestamptz NOT NULL DEFAULT now()
);
