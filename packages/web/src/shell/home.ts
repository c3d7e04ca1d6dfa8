import { dayIn } from '@clear-mark/core';
import type { RouteLocationRaw } from 'vue-router';
import type { useSession } from '../session/session.ts';

/** Where a person's work begins: the running class, or the own record. */
export function home(session: ReturnType<typeof useSession>): RouteLocationRaw {
  if (!session.teaches) return { name: 'me' };
  const now = new Date();
  const running = session.classes.find((c) => {
    const today = dayIn(c.timeZone, now);
    return c.startsOn <= today && c.endsOn >= today;
  });
  const first = running ?? session.classes[0];
  return first ? { name: 'today', params: { classId: first.id } } : { name: 'classes' };
}
