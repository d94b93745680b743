-- What an account shows of its sessions: which browser, since when; and a name to end one by.
ALTER TABLE sessions
  ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid() UNIQUE,
  ADD COLUMN browser text NOT NULL DEFAULT '',
  ADD COLUMN begun_at timestamptz NOT NULL DEFAULT now();
-- A session lasts thirty days from its beginning.
UPDATE sessions SET begun_at = expires_at - interval '30 days';
