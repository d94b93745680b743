-- A second step of signing in (RFC 6238): a secret that an app on the account's phone has, too. It counts once one of
-- its codes has been typed.
CREATE TABLE second_steps (
  account_id uuid PRIMARY KEY REFERENCES accounts ON DELETE CASCADE,
  secret_sealed bytea NOT NULL,
  confirmed_at timestamptz,
  -- The latest step of time whose code was taken: a code is good once.
  last_step bigint NOT NULL DEFAULT 0
);

-- Codes for when the phone is away, each good once; what is kept is a hash.
CREATE TABLE spare_codes (
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  code_hash bytea NOT NULL,
  PRIMARY KEY (account_id, code_hash)
);
