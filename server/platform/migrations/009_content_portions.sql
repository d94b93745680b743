-- Large contents lie in portions, so that none is ever whole in memory: `bytes` is then null.
ALTER TABLE blobs ALTER COLUMN bytes DROP NOT NULL;
ALTER TABLE blobs ADD COLUMN size_bytes bigint;
UPDATE blobs SET size_bytes = length(bytes);
ALTER TABLE blobs ALTER COLUMN size_bytes SET NOT NULL;
ALTER TABLE blobs ADD COLUMN portions uuid UNIQUE;
ALTER TABLE blobs ADD CHECK ((bytes IS NULL) <> (portions IS NULL));

-- Portions come before their content is known by its hash; those of one that never came to its end are
-- collected.
CREATE TABLE blob_portions (
  content uuid NOT NULL,
  position integer NOT NULL,
  bytes bytea NOT NULL,
  put_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (content, position)
);

-- Where a destination is reached, and how; the first transport was the only one until now.
ALTER TABLE destinations ADD COLUMN protocol text NOT NULL DEFAULT 'sftp';
