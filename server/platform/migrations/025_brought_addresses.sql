-- Addresses that are out in the world of a site that was brought back from an archive: by which destination is not known here.
CREATE TABLE brought_addresses (
  site_id uuid NOT NULL REFERENCES sites ON DELETE CASCADE,
  page_id uuid NOT NULL,
  path text COLLATE "C" NOT NULL,
  given_up boolean NOT NULL DEFAULT false,
  PRIMARY KEY (site_id, page_id, path)
);
