import type { ChartLook } from './chart-look.ts';
import type { ChartOption } from './echarts.ts';

/** From this many places on an axis a part of it can be looked at. */
export const ZOOMED_FROM = 25;
const SLIDER_PX = 26;

interface Axis {
  readonly type?: string;
  readonly data?: readonly unknown[];
}

/**
 * A chart of many places one after the other, with a slider under it: a part of it is looked at by the slider's ends, by
 * Ctrl and the wheel, or by two fingers. A chart of few places, or of values, stays as it is.
 */
export function withZoom(option: ChartOption, { token, soft }: ChartLook): ChartOption {
  const axis = option['xAxis'] as Axis | undefined;
  if (axis?.type !== 'category' || (axis.data?.length ?? 0) < ZOOMED_FROM) return option;
  const grid = option['grid'] as { readonly bottom?: number } | undefined;
  return {
    ...option,
    grid: { ...grid, bottom: (grid?.bottom ?? 30) + SLIDER_PX + 6 },
    dataZoom: [
      { type: 'inside', zoomOnMouseWheel: 'ctrl', moveOnMouseWheel: false, filterMode: 'none' },
      {
        type: 'slider',
        height: SLIDER_PX - 6,
        bottom: 6,
        filterMode: 'none',
        brushSelect: true,
        showDetail: false,
        borderColor: token('--hair-strong'),
        backgroundColor: token('--sunk'),
        fillerColor: token('--accent-wash'),
        handleSize: '120%',
        handleStyle: { color: token('--sheet'), borderColor: token('--accent'), borderWidth: 2 },
        moveHandleStyle: { color: token('--accent') },
        dataBackground: { lineStyle: { opacity: 0 }, areaStyle: { opacity: 0 } },
        selectedDataBackground: { lineStyle: { opacity: 0 }, areaStyle: { opacity: 0 } },
        textStyle: soft,
      },
    ],
  };
}
