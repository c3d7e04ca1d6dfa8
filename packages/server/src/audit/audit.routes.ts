import { AuditFilter, FILES, ROUTES } from '@clear-mark/contract';
import { auditWords } from '@clear-mark/words';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { plainText, sendCsv } from '../http/csv.ts';
import { handle, handleFile } from '../http/handle.ts';
import { auditStore, record } from './audit.store.ts';

const PAGE = 100;
const CSV_PAGE = 1000;
const COLUMNS = ['number', 'at', 'kind', 'what', 'by', 'person', 'class', 'detail'];

/** The trail of what was done to accounts, policies, methods and exports, for the lead. */
export function auditRoutes(router: Router, db: Database): void {
  const store = auditStore(db);
  handle(router, ROUTES.audit, async ({ query }) => {
    const found = await store.page(query, PAGE + 1);
    return { events: found.slice(0, PAGE), more: found.length > PAGE };
  });
  handleFile(router, FILES.auditCsv, async ({ me, request, response }) => {
    const filter = AuditFilter.parse(request.query);
    await record(db, { kind: 'export', by: me.id, detail: 'audit trail' });
    await sendCsv(response, 'audit-trail.csv', COLUMNS, async (csv) => {
      for (let { before } = filter; ;) {
        const page = await store.page({ ...filter, before }, CSV_PAGE);
        for (const e of page) {
          const names = [e.by, e.person, e.className].map((name) => plainText(name ?? ''));
          csv.write([e.seq, e.at, e.kind, auditWords(e.kind), ...names, plainText(e.detail)]);
        }
        if (page.length < CSV_PAGE) return;
        before = page.at(-1)!.seq;
      }
    });
  });
}
