-- A site shown to somebody without an account, at an address that ends.
CREATE TABLE shared_looks (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  -- For whom it is, in the words of whoever made it.
  label text NOT NULL DEFAULT '',
  -- SHA-256 of what the address holds, which is known to nobody else.
  token_hash bytea NOT NULL UNIQUE,
  -- What they may see is what this account may see.
  made_by uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  made_at timestamptz NOT NULL DEFAULT now(),
  ends_at timestamptz NOT NULL
);
CREATE INDEX shared_looks_by_site ON shared_looks (site_id);

-- What somebody says of a page, of a place in it, or of the plan.
CREATE TABLE notes (
  id uuid PRIMARY KEY,
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  -- Where it was written; null for those who take part in the site.
  look_id uuid REFERENCES shared_looks ON DELETE SET NULL,
  -- Null for the plan. A page may go and come back, so it is not held to its row.
  page_id uuid,
  -- A place in it: an element, counted among those of its name, and how what it says begins.
  tag text,
  nth int,
  quote text NOT NULL DEFAULT '',
  author text NOT NULL,
  account_id uuid REFERENCES accounts ON DELETE SET NULL,
  text text NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now(),
  settled_at timestamptz,
  settled_by text,
  -- The change that did it, as history calls it, where one of whoever settled it touched the page since.
  settled_with text
);
CREATE INDEX notes_by_site ON notes (site_id, made_at);

CREATE TABLE note_answers (
  id uuid PRIMARY KEY,
  note_id uuid NOT NULL REFERENCES notes ON DELETE CASCADE,
  author text NOT NULL,
  account_id uuid REFERENCES accounts ON DELETE SET NULL,
  text text NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX note_answers_by_note ON note_answers (note_id, made_at);
