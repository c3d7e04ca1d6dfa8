import type { SkillInTime } from '@clear-mark/contract';
import type { ChartLook } from '../../../charts/chart-look.ts';
import { rateAxes, type RateAt, rateSeries } from '../rate-series.ts';
import { FEW } from './skills.model.ts';

const shortDay = (day: string): string => `${Number(day.slice(8))}.${Number(day.slice(5, 7))}.`;

/** Pass rates day by day. */
export const daysOption = (skill: SkillInTime, rates: readonly RateAt[], look: ChartLook) => ({
  animation: false,
  tooltip: look.tooltip,
  ...rateAxes(
    skill.days.map((d) => shortDay(d.day)),
    'day',
    look,
  ),
  series: rateSeries(rates, look).map((series) =>
    series.type === 'scatter' ? { ...series, markLine: versionLines(skill, look) } : series,
  ),
});

/** Where a later version of a method was first used: before it and after it are not scored by the same sheet. */
export const versionLines = (
  { days, versions }: Pick<SkillInTime, 'days' | 'versions'>,
  look: ChartLook,
) => ({
  symbol: 'none',
  silent: true,
  data: versions.flatMap(({ day, title, version }) => {
    const at = days.findIndex((d) => d.day >= day);
    return at < 0
      ? []
      : [
          {
            xAxis: at - 0.5,
            lineStyle: { color: look.token('--ink'), width: 1, type: 'dotted' },
            label: { ...look.soft, formatter: `${title}, version ${version}`, color: look.token('--ink') },
          },
        ];
  }),
});

/** Pass rates by the number of a trainee's attempt, and the level that they come to. */
export function learningOption(skill: SkillInTime, rates: readonly RateAt[], look: ChartLook) {
  // A line through the outcomes of a handful of trainees is not drawn as if it were known.
  const first = skill.learning[0]?.rate;
  const few = !first || first.kind === 'none' || first.n < FEW;
  return {
    animation: false,
    tooltip: look.tooltip,
    ...rateAxes(
      skill.learning.map((p) => String(p.attempt)),
      'a trainee’s attempts in this skill',
      look,
    ),
    series: [
      {
        type: 'line',
        silent: true,
        showSymbol: false,
        step: 'middle',
        lineStyle: few
          ? { color: look.token('--ink-soft'), width: 1.5, type: 'dashed' }
          : { color: look.token('--ink'), width: 2 },
        data: skill.learning.map((p) => 1 - p.level),
      },
      ...rateSeries(rates, look),
    ],
  };
}
