-- Where a site that is being brought in was fetched from, so that it can be sent back there.
CREATE TABLE bringing_places (
  bringing_id uuid PRIMARY KEY REFERENCES bringings ON DELETE CASCADE,
  protocol text NOT NULL,
  host text NOT NULL,
  port int NOT NULL,
  account text NOT NULL,
  password_sealed bytea NOT NULL,
  folder text NOT NULL,
  public_address text NOT NULL,
  host_key text NOT NULL
);
