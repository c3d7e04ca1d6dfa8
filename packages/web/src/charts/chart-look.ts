import { computed, type ComputedRef } from 'vue';
import { pointWords } from './chart-walk.ts';
import { usePreferences } from '../shell/preferences.ts';

/** A point says its words and not the bare figure behind it. */
export interface ChartTooltip {
  readonly trigger: 'item';
  readonly textStyle: { readonly fontFamily: string };
  readonly formatter: (point: { readonly data: unknown }) => string;
}

/** What a chart is drawn with: the colours of the theme by their names, and the words of its axes. */
export interface ChartLook {
  readonly token: (name: string) => string;
  readonly soft: { readonly color: string; readonly fontFamily: string; readonly fontSize: number };
  readonly tooltip: ChartTooltip;
}

/** It follows the theme, since the colours are asked for anew when that changes. */
export function useChartLook(): ComputedRef<ChartLook> {
  const preferences = usePreferences();
  return computed(() => {
    void preferences.theme;
    const style = getComputedStyle(document.documentElement);
    const token = (name: string): string => style.getPropertyValue(name).trim();
    return {
      token,
      soft: { color: token('--ink-soft'), fontFamily: token('--font'), fontSize: 13 },
      tooltip: {
        trigger: 'item',
        textStyle: { fontFamily: token('--font') },
        formatter: ({ data }) => pointWords(data) ?? '',
      },
    };
  });
}

/** An axis of places one after the other: attempts, days, outcomes. */
export function placesAxis(labels: readonly string[], name: string, { token, soft }: ChartLook) {
  return {
    type: 'category',
    data: labels,
    name,
    nameLocation: 'middle',
    nameGap: 26,
    nameTextStyle: soft,
    axisLabel: { ...soft, hideOverlap: true },
    axisTick: { show: false },
    axisLine: { lineStyle: { color: token('--hair-strong') } },
  };
}
