-- Words that are right in a site whatever dictionaries say.
ALTER TABLE sites ADD COLUMN own_words text[] NOT NULL DEFAULT '{}';
