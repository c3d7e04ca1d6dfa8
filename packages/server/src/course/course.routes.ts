import { ROUTES } from '@clear-mark/contract';
import type { Router } from 'express';
import type { Database } from '../database/database.ts';
import { handle } from '../http/handle.ts';
import { courseService } from './course.service.ts';

export function courseRoutes(router: Router, db: Database): void {
  const courses = courseService(db);
  handle(router, ROUTES.course, ({ params, me }) => courses.course(params.id, me));
  handle(router, ROUTES.setCourseMethod, async ({ params, body, me }) => {
    await courses.set(params.id, body, me);
    return { done: true } as const;
  });
  handle(router, ROUTES.addStockItem, ({ params, body, me }) => courses.addItem(params.id, body, me));
}
