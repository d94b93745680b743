-- Each request that changes something carries an id of its window's making, so that one whose answer
-- was lost on the way is answered again and not made again.
CREATE TABLE requests_made (
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  id uuid NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now(),
  -- What it made, where the answer cannot be worked out again: the id of a new site or delivery.
  result text,
  PRIMARY KEY (account_id, id)
);
CREATE INDEX requests_made_at ON requests_made (made_at);

-- Counters of the rate limiter: atomic, and the same for all processes.
CREATE TABLE rate_limits (
  key varchar(255) PRIMARY KEY,
  points integer NOT NULL DEFAULT 0,
  expire bigint
);
CREATE INDEX rate_limits_expire ON rate_limits (expire);
DROP TABLE sign_in_failures;

-- A session that nobody uses ends.
ALTER TABLE sessions ADD COLUMN seen_at timestamptz NOT NULL DEFAULT now();
CREATE INDEX sessions_by_expiry ON sessions (expires_at);

-- Contents are asked for by who names them, before they are collected.
ALTER TABLE blobs ADD COLUMN put_at timestamptz NOT NULL DEFAULT now();
CREATE INDEX pages_by_content ON pages (content);
CREATE INDEX site_files_by_hash ON site_files (hash);
CREATE INDEX templates_by_source ON templates (source);
CREATE INDEX history_by_age ON history (made_at);

-- Which contents a step of history names, so that they are kept for as long as it is.
CREATE TABLE history_contents (
  site_id uuid NOT NULL,
  revision bigint NOT NULL,
  hash text NOT NULL,
  PRIMARY KEY (site_id, revision, hash),
  FOREIGN KEY (site_id, revision) REFERENCES history (site_id, revision) ON DELETE CASCADE
);
CREATE INDEX history_contents_by_hash ON history_contents (hash);
INSERT INTO history_contents (site_id, revision, hash)
  SELECT DISTINCT site_id, revision, found[1] FROM history, regexp_matches(diff::text, '"([0-9a-f]{64})"', 'g') AS found;

-- What parsing yields has another form now: a cache, made again as it is asked for.
TRUNCATE content_facts;
