-- What the page that another is a translation of held when they said the same: what was changed since is told by it.
CREATE TABLE translated_texts (
  site_id uuid NOT NULL,
  page_id uuid NOT NULL,
  of_id uuid NOT NULL,
  slot text NOT NULL,
  content text NOT NULL REFERENCES blobs,
  PRIMARY KEY (site_id, page_id, slot),
  FOREIGN KEY (site_id, page_id) REFERENCES pages (site_id, id) ON DELETE CASCADE
);
CREATE INDEX translated_texts_by_content ON translated_texts (content);
