-- What a delivery is to do is frozen when it is asked for: a row a file, with its hash, so that an edit made
-- meanwhile belongs to the next one, any number of processes share the work, and each state can be put back.
UPDATE deliveries SET revision = coalesce(sent_revision, revision);
ALTER TABLE deliveries
  DROP COLUMN sent_revision,
  -- Whether whoever leads it has looked at what is there, so that others may help.
  ADD COLUMN planned boolean NOT NULL DEFAULT false,
  ADD COLUMN pause_asked boolean NOT NULL DEFAULT false,
  ADD COLUMN paused boolean NOT NULL DEFAULT false,
  -- Files that somebody else had changed there and nobody had seen: left as they were.
  ADD COLUMN held_count int NOT NULL DEFAULT 0,
  -- The delivery whose state this one puts back.
  ADD COLUMN put_back uuid REFERENCES deliveries ON DELETE SET NULL,
  ADD COLUMN asked_by uuid REFERENCES accounts ON DELETE SET NULL;
-- Asked for before there were rows to do.
UPDATE deliveries SET state = 'failed', ended_at = now(), error_code = 'failed',
  error_message = 'Rubricant was replaced by a later version meanwhile.' WHERE state IN ('waiting', 'running');

ALTER TABLE delivery_files
  ALTER COLUMN hash DROP NOT NULL,
  ALTER COLUMN sent_at DROP NOT NULL,
  ALTER COLUMN sent_at DROP DEFAULT,
  ADD COLUMN page_id uuid,
  -- When it is sent; `core/delivery/order.ts`.
  ADD COLUMN step smallint NOT NULL DEFAULT 2,
  -- frozen: not compared yet; same: as it is there; found: the same, and no delivery had recorded it; waiting, taken:
  -- to do and being done; sent, removed: done; tried: begun, and nobody knows how it ended; held: see `held_count`.
  ADD COLUMN state text NOT NULL DEFAULT 'sent'
    CHECK (state IN ('frozen', 'same', 'found', 'waiting', 'taken', 'sent', 'removed', 'tried', 'held')),
  -- Whether its author saw that it replaces what somebody else put there.
  ADD COLUMN replaces boolean NOT NULL DEFAULT false,
  -- Whether anybody has begun to send it.
  ADD COLUMN begun boolean NOT NULL DEFAULT true,
  ADD COLUMN worker uuid;
ALTER TABLE delivery_files ALTER COLUMN state SET DEFAULT 'frozen', ALTER COLUMN begun SET DEFAULT false;
CREATE INDEX delivery_files_to_do ON delivery_files (delivery_id, step) WHERE state IN ('waiting', 'taken');
CREATE INDEX delivery_files_by_hash ON delivery_files (hash);

-- Whoever works on a delivery, for as long as it says so: what another had taken is free when it is gone.
CREATE TABLE delivery_workers (
  delivery_id uuid NOT NULL REFERENCES deliveries ON DELETE CASCADE,
  worker uuid NOT NULL,
  until timestamptz NOT NULL,
  PRIMARY KEY (delivery_id, worker)
);
