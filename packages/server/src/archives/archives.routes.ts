import { ArchiveOutlook, FILES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handleFile } from '../http/handle.ts';
import type { PictureStorage } from '../pictures/index.ts';
import { archivesService } from './archives.service.ts';

export function archiveRoutes(
  router: Router,
  db: Database,
  databaseUrl: string,
  now: () => Date,
  storage: PictureStorage | null,
): void {
  const archives = archivesService(db, databaseUrl, storage);
  handleFile(router, FILES.classArchive, ({ id, me, response }) =>
    archives.make(
      id('id', 'not_found.class'),
      me,
      now(),
      (file) =>
        new Promise((resolve, reject) => {
          response.attachment('class-archive.zip').type('application/zip');
          response.sendFile(file, (error?: Error) => (error ? reject(error) : resolve()));
        }),
    ),
  );
  handleFile(router, FILES.lookAtArchive, async ({ request, response }) => {
    response.json(ArchiveOutlook.parse(await archives.look(request)));
  });
  handleFile(router, FILES.takeArchive, async ({ request, me, response }) => {
    response.json(ArchiveOutlook.parse(await archives.take(request, me)));
  });
}
