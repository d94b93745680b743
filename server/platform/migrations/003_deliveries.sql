-- Where sites are uploaded, what was sent, and what was last seen there.
CREATE TABLE destinations (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  name text NOT NULL,
  host text NOT NULL,
  port int NOT NULL CHECK (port BETWEEN 1 AND 65535),
  account text NOT NULL,
  -- AES-256-GCM; the key is in the environment, never here.
  password_sealed bytea NOT NULL,
  folder text NOT NULL,
  public_address text NOT NULL,
  -- SHA-256 of the host's key, as OpenSSH shows it, accepted by the author.
  host_key text NOT NULL,
  listed_at timestamptz,
  created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX destinations_by_site ON destinations (site_id);

CREATE TABLE deliveries (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  destination_id uuid NOT NULL REFERENCES destinations ON DELETE CASCADE,
  state text NOT NULL CHECK (state IN ('waiting', 'running', 'done', 'failed', 'cancelled')),
  revision bigint NOT NULL,
  remove_leftovers boolean NOT NULL DEFAULT false,
  file_total int NOT NULL DEFAULT 0,
  byte_total bigint NOT NULL DEFAULT 0,
  file_count int NOT NULL DEFAULT 0,
  byte_count bigint NOT NULL DEFAULT 0,
  removed_count int NOT NULL DEFAULT 0,
  cancel_asked boolean NOT NULL DEFAULT false,
  error_code text,
  error_message text,
  -- Who works on it holds a lease and renews it; when it runs out another process takes over.
  worker uuid,
  lease_until timestamptz,
  asked_at timestamptz NOT NULL DEFAULT now(),
  started_at timestamptz,
  ended_at timestamptz
);
CREATE INDEX deliveries_by_destination ON deliveries (destination_id, asked_at DESC);
-- One delivery at a time to one destination.
CREATE UNIQUE INDEX deliveries_under_way ON deliveries (destination_id) WHERE state IN ('waiting', 'running');

-- What each delivery sent: its record.
CREATE TABLE delivery_files (
  delivery_id uuid NOT NULL REFERENCES deliveries ON DELETE CASCADE,
  path text COLLATE "C" NOT NULL,
  hash text NOT NULL,
  size_bytes bigint NOT NULL,
  sent_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (delivery_id, path)
);

-- The latest that deliveries left at each path, with what the host then said of it.
CREATE TABLE delivered_files (
  destination_id uuid NOT NULL REFERENCES destinations ON DELETE CASCADE,
  path text COLLATE "C" NOT NULL,
  hash text NOT NULL,
  size_bytes bigint NOT NULL,
  modified_seconds bigint,
  PRIMARY KEY (destination_id, path)
);

-- What was there when last looked.
CREATE TABLE listed_files (
  destination_id uuid NOT NULL REFERENCES destinations ON DELETE CASCADE,
  path text COLLATE "C" NOT NULL,
  size_bytes bigint NOT NULL,
  modified_seconds bigint,
  PRIMARY KEY (destination_id, path)
);
