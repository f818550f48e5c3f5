export { ScheduleClock } from './schedule-clock.ts';
export { scheduleRoutes } from './routes.ts';
export { ScheduleService } from './schedule-service.ts';
export { ScheduleStore } from './schedule-store.ts';
