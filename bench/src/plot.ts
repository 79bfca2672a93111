import * as echarts from 'echarts';
import type { Run } from './page.js';

/** What the plot shows: what it is called there, and the figure that it is. */
const BARS: readonly (readonly [string, string, string])[] = [
  ['bytes, 1,000 rows', 'bytes of 1,000 nested rows', 'hand-written'],
  ['bytes, one row', 'bytes of one row', 'hand-written'],
  ['CSV', 'CSV of 20,000 rows', 'hand-written joins'],
  ['JSON lines', 'JSON lines of 20,000 rows', 'hand-written'],
  ['reading JSON', 'reader.json of 1,000 nested inputs', 'hand-written'],
  ['reading objects', 'reader.object of the same', 'hand-written'],
];

/** The colours of the series: told apart by those who see few colours too. */
const COLOURS = ['#4477aa', '#66ccee', '#228833', '#ccbb44'];

const TITLE = 'Times as fast as hand-written code, by version of Node';

/** The ratios to what is written by hand, a bar for each version of Node, as SVG. */
export const plotOf = (runs: readonly Run[]): string => {
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: 900, height: 420 });
  chart.setOption({
    animation: false,
    backgroundColor: '#ffffff',
    color: COLOURS,
    legend: { top: 8 },
    grid: { left: 56, right: 96, top: 48, bottom: 40 },
    xAxis: { type: 'category', data: BARS.map(([name]) => name), axisTick: { show: false } },
    yAxis: { type: 'value', name: 'times as fast', axisLabel: { formatter: '{value}×' } },
    series: runs.map(({ node, figures }, index) => ({
      type: 'bar',
      name: `Node ${node.replace(/^v(\d+).*/, '$1')}`,
      data: BARS.map(
        ([, what, than]) =>
          figures.find((figure) => figure.what === what && figure.than === than)?.ratio?.toFixed(2) ?? null,
      ),
      ...(index === 0
        ? {
            markLine: {
              silent: true,
              symbol: 'none',
              label: { formatter: 'hand-written' },
              lineStyle: { color: '#333333' },
              data: [{ yAxis: 1 }],
            },
          }
        : {}),
    })),
  });
  // How bars look under a pointer: a picture has none.
  const svg = chart
    .renderToSVGString()
    .replace(/<style[\s\S]*?<\/style>/, '')
    .replace(/^<svg[^>]*>/, (start) => `${start}\n<title>${TITLE}</title>`);
  chart.dispose();
  return `${svg}\n`;
};
