import type { Migration } from './migration.ts';

/** Mail: one message for each address, queued until it is sent, and lists of people. */
export const mail: Migration = {
  name: '0022-mail',
  statements: [
    // a key is given by whoever asks: the same request again adds nothing
    `CREATE TABLE mail_messages (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), key TEXT NOT NULL, message_id TEXT NOT NULL UNIQUE,
      recipient TEXT NOT NULL, subject TEXT NOT NULL, body TEXT NOT NULL, at TEXT NOT NULL, by TEXT NOT NULL,
      state TEXT NOT NULL CHECK (state IN ('queued', 'sending', 'sent', 'outbox', 'failed')), attempts INTEGER NOT NULL DEFAULT 0,
      next_at TEXT NOT NULL, sent_at TEXT, error TEXT NOT NULL DEFAULT '', issue_id INTEGER REFERENCES pack_issues(id),
      UNIQUE (company_id, key, recipient))`,
    `CREATE INDEX mail_messages_queued ON mail_messages (state, next_at)`,
    `CREATE INDEX mail_messages_issue ON mail_messages (issue_id)`,
    // a file of an issued pack, which does not change
    `CREATE TABLE mail_attachments (
      message_id INTEGER NOT NULL REFERENCES mail_messages(id), slice TEXT NOT NULL, format TEXT NOT NULL, PRIMARY KEY (message_id, slice, format)) WITHOUT ROWID`,
    `CREATE TABLE mail_log (
      id INTEGER PRIMARY KEY AUTOINCREMENT, message_id INTEGER NOT NULL REFERENCES mail_messages(id), at TEXT NOT NULL, what TEXT NOT NULL)`,
    `CREATE TABLE mail_lists (
      id INTEGER PRIMARY KEY AUTOINCREMENT, company_id INTEGER NOT NULL REFERENCES companies(id), name TEXT NOT NULL COLLATE NOCASE,
      addresses TEXT NOT NULL CHECK (json_valid(addresses)), UNIQUE (company_id, name))`,
  ],
};
