import type { MailState } from '@wise-margin/contract';

export const MAIL_STATE_WORDS: Readonly<Record<MailState, string>> = {
  queued: 'Queued',
  sending: 'Sending',
  sent: 'Sent',
  outbox: 'In the outbox',
  failed: 'Not delivered',
};
