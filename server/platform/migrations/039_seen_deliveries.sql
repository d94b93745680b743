-- What visitors got of what a delivery sent, once it was asked for at the public address; null until then.
ALTER TABLE deliveries ADD COLUMN seen jsonb;
