-- Addresses of pages that were brought in as they were made by hand stood nowhere but at the pages, and the first delivery
-- would have taken them away with all that no destination knows of.
INSERT INTO brought_addresses (site_id, page_id, path)
SELECT p.site_id, p.id, known.path
FROM pages p, unnest(p.addresses) AS known(path)
WHERE NOT EXISTS (
  SELECT 1 FROM delivered_addresses a JOIN destinations d ON d.id = a.destination_id
  WHERE d.site_id = p.site_id AND a.page_id = p.id AND a.path = known.path
)
ON CONFLICT DO NOTHING;
