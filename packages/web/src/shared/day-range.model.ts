import { dayWords } from '@clear-mark/words';
import { daysAfter } from '@clear-mark/core';

export interface DayRangeChoice {
  readonly label: string;
  /** Both counted in; days like `2026-03-09`. */
  readonly from: string;
  readonly to: string;
}

/** A day as a date of this device, at its midnight: what a calendar is filled with. */
export const dayOf = (day: string): Date => new Date(`${day}T00:00:00`);

/** A day in words, by the person's locale. */
export const dayText = (day: string): string => dayWords(day);

/** The same with its day of the week, and without the year. */
export const longDayText = (day: string): string =>
  dayOf(day).toLocaleDateString(undefined, { weekday: 'long', day: 'numeric', month: 'long' });

/** On which day a week begins for a locale: 1 for Monday to 7 for Sunday; Monday where the browser does not know. */
export function firstDayOfWeek(locale: string): number {
  const told = new Intl.Locale(locale) as Intl.Locale & {
    getWeekInfo?: () => { firstDay: number };
    weekInfo?: { firstDay: number };
  };
  return told.getWeekInfo?.().firstDay ?? told.weekInfo?.firstDay ?? 1;
}

/** The day on which the week of a day began; `first` as in `firstDayOfWeek`. */
export function weekBegan(day: string, first: number): string {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
  return daysAfter(day, -((weekday - first + 7) % 7));
}

/** Ranges that are asked for most; the course where the class has one. */
export function rangesOf(
  today: string,
  course: { readonly from: string; readonly to: string } | null,
  first = firstDayOfWeek(navigator.language),
): DayRangeChoice[] {
  return [
    { label: 'Today', from: today, to: today },
    { label: 'Yesterday', from: daysAfter(today, -1), to: daysAfter(today, -1) },
    { label: 'This week', from: weekBegan(today, first), to: today },
    ...(course ? [{ label: 'The course', from: course.from, to: course.to }] : []),
  ];
}
