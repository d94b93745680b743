-- Sites as rows: structure here, contents once by SHA-256 in blobs.
CREATE TABLE blobs (
  hash text PRIMARY KEY CHECK (length(hash) = 64),
  bytes bytea NOT NULL
);

-- What parsing a content yields. A cache: may be emptied at any time.
CREATE TABLE content_facts (
  hash text PRIMARY KEY,
  facts jsonb NOT NULL
);

CREATE TABLE sites (
  id uuid PRIMARY KEY,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  revision bigint NOT NULL DEFAULT 0,
  name text NOT NULL,
  language text NOT NULL,
  title_pattern text NOT NULL,
  home_id uuid NOT NULL,
  scheme jsonb NOT NULL,
  next_seq int NOT NULL,
  created_at timestamptz NOT NULL DEFAULT now(),
  changed_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX sites_by_account ON sites (account_id);

CREATE TABLE pages (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  id uuid NOT NULL,
  parent_id uuid,
  -- A fractional index; compared by code unit, whatever the database's locale.
  position text COLLATE "C" NOT NULL,
  seq int NOT NULL,
  label text NOT NULL,
  own_name text,
  kept_name text,
  title text,
  description text,
  trial boolean NOT NULL,
  in_menus boolean NOT NULL,
  content text NOT NULL REFERENCES blobs,
  PRIMARY KEY (site_id, id),
  FOREIGN KEY (site_id, parent_id) REFERENCES pages (site_id, id) DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX pages_by_parent ON pages (site_id, parent_id);

CREATE TABLE site_files (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('image', 'style', 'script', 'document', 'other')),
  label text NOT NULL,
  seq int NOT NULL,
  hash text NOT NULL REFERENCES blobs,
  size_bytes bigint NOT NULL,
  PRIMARY KEY (site_id, id)
);

CREATE TABLE templates (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  id uuid NOT NULL,
  name text NOT NULL,
  source text NOT NULL REFERENCES blobs,
  PRIMARY KEY (site_id, id)
);

-- One row a revision. A change is undone by applying its difference the other way round.
CREATE TABLE history (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  revision bigint NOT NULL,
  kind text NOT NULL CHECK (kind IN ('change', 'undo', 'redo')),
  title text NOT NULL,
  diff jsonb NOT NULL,
  -- Of a change: done, taken back, or passed by because another change came after it was taken back.
  state text NOT NULL CHECK (state IN ('done', 'undone', 'passed')),
  made_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (site_id, revision)
);
CREATE INDEX history_to_undo ON history (site_id, state, revision) WHERE kind = 'change';
