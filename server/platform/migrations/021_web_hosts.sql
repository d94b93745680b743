-- Web hosts belong to an account and serve any number of its sites; a destination is a site's folder at one of them,
-- with the address that shows it.
CREATE TABLE web_hosts (
  id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  protocol text NOT NULL,
  host text NOT NULL,
  port int NOT NULL CHECK (port BETWEEN 1 AND 65535),
  account text NOT NULL,
  sign_in text NOT NULL DEFAULT 'password' CHECK (sign_in IN ('password', 'made-key', 'own-key')),
  -- AES-256-GCM, for this host, port, account and protocol only; the key is in the environment, never here.
  secret_sealed bytea NOT NULL,
  -- What identifies the host, as its author accepted it.
  host_key text NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  UNIQUE (account_id, protocol, host, port, account)
);
CREATE INDEX web_hosts_by_place ON web_hosts (host, account);

-- Of several destinations in one place the latest has the password that works. What is sealed is sealed for its id.
INSERT INTO web_hosts (id, account_id, protocol, host, port, account, secret_sealed, host_key, created_at)
  SELECT DISTINCT ON (s.account_id, d.protocol, d.host, d.port, d.account)
    d.id, s.account_id, d.protocol, d.host, d.port, d.account, d.password_sealed, d.host_key, d.created_at
  FROM destinations d JOIN sites s ON s.id = d.site_id
  ORDER BY s.account_id, d.protocol, d.host, d.port, d.account, d.created_at DESC;

ALTER TABLE destinations ADD COLUMN web_host_id uuid REFERENCES web_hosts;
UPDATE destinations d SET web_host_id = w.id FROM web_hosts w, sites s
  WHERE s.id = d.site_id AND w.account_id = s.account_id
    AND (w.protocol, w.host, w.port, w.account) = (d.protocol, d.host, d.port, d.account);
ALTER TABLE destinations
  ALTER COLUMN web_host_id SET NOT NULL,
  DROP COLUMN protocol, DROP COLUMN host, DROP COLUMN port, DROP COLUMN account,
  DROP COLUMN password_sealed, DROP COLUMN host_key;
CREATE INDEX destinations_by_web_host ON destinations (web_host_id);

-- The key that was made for an account, for hosts that take keys.
CREATE TABLE account_keys (
  account_id uuid PRIMARY KEY REFERENCES accounts ON DELETE CASCADE,
  public_key text NOT NULL,
  private_sealed bytea NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now()
);
