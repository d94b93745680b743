-- Accounts that somebody asked for and that a letter has to make: good for a day and once. Whoever holds the letter
-- chooses the password, so nobody makes an account with another's address and waits for them to confirm it.
CREATE TABLE asked_accounts (
  token_hash bytea PRIMARY KEY,
  email text NOT NULL UNIQUE,
  -- Where they wanted to go.
  next text NOT NULL,
  ends_at timestamptz NOT NULL
);
CREATE INDEX asked_accounts_by_end ON asked_accounts (ends_at);
