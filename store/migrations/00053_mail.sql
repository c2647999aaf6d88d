-- +goose Up
-- How a notice gets to the person's mailbox as well: '' it does not, waiting, sent or failed.
ALTER TABLE notice ADD COLUMN mail TEXT NOT NULL DEFAULT '';
ALTER TABLE notice ADD COLUMN mail_at INTEGER NOT NULL DEFAULT 0; -- ms, when it is tried next, or when it was sent
ALTER TABLE notice ADD COLUMN mail_tries INTEGER NOT NULL DEFAULT 0;
ALTER TABLE notice ADD COLUMN mail_error TEXT NOT NULL DEFAULT '';
CREATE INDEX notice_to_mail ON notice (mail, mail_at) WHERE mail IN ('waiting', 'failed');
