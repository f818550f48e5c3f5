export { MailLists } from './mail-lists.ts';
export { MailSender } from './mail-sender.ts';
export { MailService } from './mail-service.ts';
export type { MailSettings } from './mail-service.ts';
export { MailStore } from './mail-store.ts';
export { smtpTransport } from './mail-transport.ts';
export type { MailTransport } from './mail-transport.ts';
export { mailRoutes } from './routes.ts';
