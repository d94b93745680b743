-- A title of a page that is the whole of it: the site's pattern puts nothing around it.
ALTER TABLE pages ADD COLUMN title_alone boolean NOT NULL DEFAULT false;
