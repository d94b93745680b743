-- What stands at a host a site was fetched from and did not come with it: [{ "path": …, "why": … }].
ALTER TABLE bringings ADD COLUMN unread jsonb NOT NULL DEFAULT '[]';
