export { AuditService } from './audit-service.ts';
export { auditRoutes } from './routes.ts';
