-- What was found out about a web host by trying it: how it tells names apart, replaces files, and so on.
ALTER TABLE web_hosts ADD COLUMN traits jsonb NOT NULL DEFAULT '{}';
