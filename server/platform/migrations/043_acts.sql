-- What somebody does at once in several revisions, as adding a hundred photographs is, is taken back as one step.

-- What the window calls it; while it is the latest that its author did, it goes on.
ALTER TABLE history ADD COLUMN act_id uuid;
-- The revision in which the step begins that a change is a part of; null where it is one by itself.
ALTER TABLE history ADD COLUMN step_begun bigint;
CREATE INDEX history_by_step ON history (site_id, step_begun, revision) WHERE step_begun IS NOT NULL;
