-- Several templates of one site: which one is the site's, what is based on what, and which pages use which.
ALTER TABLE templates ADD COLUMN based_on uuid;
-- They are shown in the order in which they were made.
ALTER TABLE templates ADD COLUMN position bigint GENERATED ALWAYS AS IDENTITY;

ALTER TABLE sites ADD COLUMN template_id uuid;
UPDATE sites s SET template_id = (SELECT id FROM templates t WHERE t.site_id = s.id ORDER BY id LIMIT 1);
ALTER TABLE sites ALTER COLUMN template_id SET NOT NULL;
-- How pages are written, and the home page's own title.
ALTER TABLE sites ADD COLUMN home_title_pattern text NOT NULL DEFAULT '';
ALTER TABLE sites ADD COLUMN output jsonb NOT NULL DEFAULT '{"indent": "as-written", "lineEnd": "lf", "comments": false}';

ALTER TABLE pages ADD COLUMN template_id uuid;
ALTER TABLE pages ADD COLUMN below_template_id uuid;

-- What pages hold in slots other than the one in their rows.
CREATE TABLE page_slots (
  site_id uuid NOT NULL,
  page_id uuid NOT NULL,
  name text NOT NULL,
  content text NOT NULL REFERENCES blobs,
  PRIMARY KEY (site_id, page_id, name),
  FOREIGN KEY (site_id, page_id) REFERENCES pages (site_id, id) ON DELETE CASCADE
);
CREATE INDEX page_slots_by_content ON page_slots (content);
