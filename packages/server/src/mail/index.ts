export { sendMail } from './mailer.ts';
