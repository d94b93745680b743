-- Addresses that are out in the world belong to the destination that put them there, and are noted in
-- the transaction that records the file. `pages.addresses` is what the site's revision says of them,
-- brought up to this table; undo does not compare it. A given up address is kept, so that undo finds it.
CREATE TABLE delivered_addresses (
  destination_id uuid NOT NULL REFERENCES destinations ON DELETE CASCADE,
  page_id uuid NOT NULL,
  path text COLLATE "C" NOT NULL,
  given_up boolean NOT NULL DEFAULT false,
  noted_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (destination_id, page_id, path)
);
CREATE INDEX delivered_addresses_by_page ON delivered_addresses (page_id);
-- Until now it was not known by which destination: each of the site's is taken to have them.
INSERT INTO delivered_addresses (destination_id, page_id, path)
  SELECT d.id, p.id, a FROM pages p JOIN destinations d ON d.site_id = p.site_id, unnest(p.addresses) a;
