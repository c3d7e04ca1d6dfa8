export { attemptReport, type AttemptReportOf, type ReportTrace } from './attempt-report.ts';
export { certificateReport } from './certificate.ts';
export { classReport, type ReportOf } from './class-report.ts';
export * from './from-replies.ts';
export { traineeReport, type TraineeReportOf } from './trainee-report.ts';
