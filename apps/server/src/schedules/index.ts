export { ScheduleClock } from './schedule-clock.ts';
export { scheduleRoutes } from './routes.ts';
export { ScheduleService } from './schedule-service.ts';
export { ScheduleStore } from './schedule-store.ts';
export { ScheduledMail } from './scheduled-mail.ts';
export { WatchReports } from './watch-reports.ts';
