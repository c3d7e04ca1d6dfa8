import { BarChart, CustomChart, LineChart, ScatterChart } from 'echarts/charts';
import { DataZoomComponent, GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { CanvasRenderer, SVGRenderer } from 'echarts/renderers';
import type { EChartsCoreOption } from 'echarts/core';

use([BarChart, CustomChart, LineChart, ScatterChart]);
use([DataZoomComponent, GridComponent, MarkLineComponent, TooltipComponent]);
use([SVGRenderer, CanvasRenderer]);

export type ChartOption = EChartsCoreOption;

/** A chart as a PNG of twice its size, with its title above it, drawn apart from the page by the same option. */
export async function chartPng(
  option: ChartOption,
  size: { readonly width: number; readonly height: number },
  title: string,
  look: { readonly ground: string; readonly ink: string; readonly font: string },
): Promise<Blob> {
  const place = document.createElement('div');
  const chart = init(place, null, { renderer: 'canvas', width: size.width, height: size.height });
  try {
    chart.setOption({ ...option, animation: false });
    const drawn = chart.renderToCanvas({ pixelRatio: 2, backgroundColor: look.ground });
    const head = 60;
    const whole = document.createElement('canvas');
    [whole.width, whole.height] = [drawn.width, drawn.height + head];
    const pen = whole.getContext('2d')!;
    pen.fillStyle = look.ground;
    pen.fillRect(0, 0, whole.width, whole.height);
    pen.fillStyle = look.ink;
    pen.font = `700 30px ${look.font}`;
    pen.fillText(title, 20, 40, whole.width - 40);
    pen.drawImage(drawn, 0, head);
    return await new Promise((resolve, reject) =>
      whole.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/png'),
    );
  } finally {
    chart.dispose();
  }
}
