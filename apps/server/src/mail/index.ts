export { MailLists } from './mail-lists.ts';
export { MailSender } from './mail-sender.ts';
export { filled, MailService } from './mail-service.ts';
export type { MailFields, MailSettings } from './mail-service.ts';
export { MailStore } from './mail-store.ts';
export type { MailFile } from './mail-store.ts';
export { smtpTransport } from './mail-transport.ts';
export type { MailTransport } from './mail-transport.ts';
export { mailRoutes } from './routes.ts';
