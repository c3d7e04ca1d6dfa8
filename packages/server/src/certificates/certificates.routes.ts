import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { certificatesService } from './certificates.service.ts';

export function certificateRoutes(router: Router, db: Database, now: () => Date): void {
  const certificates = certificatesService(db, now);
  handle(router, ROUTES.certificates, ({ params, query, me }) =>
    certificates.ofClass(params.id, query.trainee, me),
  );
  handle(router, ROUTES.issueCertificate, ({ params, body, me }) => certificates.issue(params.id, body, me));
  handle(router, ROUTES.withdrawCertificate, ({ params, body, me }) =>
    certificates.withdraw(params.id, params.certificateId, body.reason, me),
  );
  handle(router, ROUTES.ownCertificates, ({ me }) => certificates.ofPerson(me));
  handle(router, ROUTES.verifyCertificate, ({ body, request }) =>
    certificates.verify(body.code, request.ip ?? ''),
  );
}
