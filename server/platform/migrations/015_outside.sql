-- What came of following addresses outside, when somebody last asked for it.
CREATE TABLE followed_addresses (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  address text NOT NULL,
  outcome text NOT NULL,
  status integer,
  moved_to text,
  followed_at timestamptz NOT NULL DEFAULT now()
);
-- By a digest: an address may be longer than a key of an index.
CREATE UNIQUE INDEX followed_addresses_key ON followed_addresses (site_id, md5(address));
