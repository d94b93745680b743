-- A delivery that was cut goes on by itself, as long as its author lets it.
ALTER TABLE deliveries
  ADD COLUMN goes_on boolean NOT NULL DEFAULT false,
  ADD COLUMN cuts int NOT NULL DEFAULT 0,
  ADD COLUMN go_on_at timestamptz;
