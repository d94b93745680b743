-- Where visitors find a site: what references of it begin with that name it by its whole address.
ALTER TABLE sites ADD COLUMN public_address text NOT NULL DEFAULT '';
