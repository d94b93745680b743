-- Others than its owner take part in a site.

-- What others know an account by; empty until it says: then what its e-mail address begins with.
ALTER TABLE accounts ADD COLUMN name text NOT NULL DEFAULT '';

CREATE TABLE site_people (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  role text NOT NULL CHECK (role IN ('reader', 'writer', 'partner')),
  since timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (site_id, account_id)
);
CREATE INDEX site_people_by_account ON site_people (account_id);

-- The one place that says what an account is to a site; null for nobody. What each role may do: core/site/roles.ts.
CREATE FUNCTION role_in_site(asked_site uuid, asked_account uuid) RETURNS text LANGUAGE sql STABLE AS $$
  SELECT CASE WHEN s.account_id = asked_account THEN 'owner' ELSE p.role END
  FROM sites s LEFT JOIN site_people p ON p.site_id = s.id AND p.account_id = asked_account
  WHERE s.id = asked_site
$$;

-- Addresses that are handed out: whoever opens one, signed in, takes part (writer, partner), or takes a copy of the site
-- as it is then, which whoever handed it out may read ('copy').
CREATE TABLE invitations (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  gives text NOT NULL CHECK (gives IN ('writer', 'partner', 'copy')),
  -- For whom it is, in the words of whoever made it.
  label text NOT NULL DEFAULT '',
  -- SHA-256 of what the address holds, which is known to nobody else.
  token_hash bytea NOT NULL UNIQUE,
  made_by uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  made_at timestamptz NOT NULL DEFAULT now(),
  ends_at timestamptz NOT NULL,
  taken_count int NOT NULL DEFAULT 0
);
CREATE INDEX invitations_by_site ON invitations (site_id);

-- Copies that were taken of a site that was handed out.
CREATE TABLE handed_out (
  copy_id uuid PRIMARY KEY REFERENCES sites ON DELETE CASCADE,
  invitation_id uuid NOT NULL REFERENCES invitations ON DELETE CASCADE,
  account_id uuid NOT NULL REFERENCES accounts ON DELETE CASCADE,
  UNIQUE (invitation_id, account_id)
);

-- Whose step of history it is: undo takes back one's own.
ALTER TABLE history ADD COLUMN made_by uuid REFERENCES accounts ON DELETE SET NULL;
UPDATE history h SET made_by = s.account_id FROM sites s WHERE s.id = h.site_id AND h.state <> 'passed';
DROP INDEX history_to_undo;
CREATE INDEX history_to_undo ON history (site_id, made_by, state, revision) WHERE kind = 'change';
CREATE INDEX history_by_account ON history (made_by);
