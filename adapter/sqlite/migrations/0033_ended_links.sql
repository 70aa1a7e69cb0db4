-- +goose Up
-- Links of invitations that went out before version 8 open nothing: they must be sent again, and say so where they are listed. What such
-- a link is about was named anew by that version in hexadecimal digits; its letters went out before it.
UPDATE job SET state = 'failed',
  reason = 'Its link is from before this house was upgraded, and opens nothing any more. Send it again.'
  WHERE about = 'invitation' AND kind = 'invitation' AND key = 'letter' AND state = 'done' AND EXISTS (SELECT 1 FROM invitation n
    WHERE n.id = job.subject AND n.run = job.run AND n.submission IS NULL AND n.withdrawn = 0 AND n.ref NOT GLOB '*[^0-9a-f]*'
      AND n.sent <= (SELECT 1000000 * unixepoch(max(tstamp)) FROM goose_db_version WHERE version_id = 8));
