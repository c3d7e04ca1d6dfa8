/** What the drawings of a trend share: their measures in pixels, their colours, their words. */
export const TREND = {
  width: 640,
  left: 44,
  right: 96,
  ink: '#1b1f24',
  hair: '#c9ced4',
  mark: '#0b6460',
} as const;

/** Words in a drawing, in the shipped typeface. */
export const label = (x: number, y: number, text: string, anchor: 'start' | 'end' = 'start'): string =>
  `<text x="${x}" y="${y.toFixed(1)}" font-family="Latin, sans-serif" font-size="12" fill="${TREND.ink}" text-anchor="${anchor}">${escaped(text)}</text>`;
const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** A whole drawing of its parts, as wide as all trends. */
export const trendSvg = (height: number, parts: readonly string[]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${TREND.width} ${height}" width="${TREND.width}" height="${height}">${parts.join('')}</svg>`;
