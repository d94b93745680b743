-- Files that come in several requests: how much of each is here. What has come lies in `blob_portions`
-- under the upload's id, and goes when the file is whole or nobody has sent more of it for a day.
CREATE TABLE uploads (
  id uuid PRIMARY KEY,
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  received_bytes bigint NOT NULL DEFAULT 0,
  portions integer NOT NULL DEFAULT 0,
  touched_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX uploads_by_site ON uploads (site_id);
