-- Bytes that have gone out of files that are not complete yet: how far a large one is on a slow line.
ALTER TABLE delivery_workers ADD COLUMN bytes_out bigint NOT NULL DEFAULT 0;
