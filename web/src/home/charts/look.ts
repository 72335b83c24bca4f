// What the charts of the home page share: fonts, the theme's colours, scales.
import { BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { say } from '../../ui/text';

Chart.defaults.font.family = say`'Source Sans 3 Variable', sans-serif`;
Chart.defaults.font.size = 13;
Chart.register(BarElement, CategoryScale, LinearScale, Tooltip, Legend);

/** A colour of the theme by its name, as it is now. */
export const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name);
const ink = (): string => colour('--color-base-content'),
  rule = (): string => colour('--color-base-300');

/** Bars that lie, with numbers below them. */
export const lying = (stacked: boolean) => ({
  indexAxis: 'y' as const,
  maintainAspectRatio: false,
  animation: false as const,
  scales: {
    x: { stacked, ticks: { color: ink(), precision: 0 }, grid: { color: rule() } },
    y: { stacked, ticks: { color: ink() }, grid: { display: false } },
  },
});

/** Bars that stand on each other, with numbers beside them. */
export const standing = () => ({
  maintainAspectRatio: false,
  animation: false as const,
  scales: {
    x: { stacked: true, ticks: { color: ink() } },
    y: { stacked: true, ticks: { color: ink(), precision: 0 }, grid: { color: rule() } },
  },
});

/** What each colour means, below the bars. */
export const legend = () => ({ legend: { position: 'bottom' as const, labels: { color: ink(), boxWidth: 12 } } });

/** Height of the bar of one market, in pixels, and of a chart with some of them and a legend. */
export const marketBar = 22;
export const heightOf = (markets: number): number => 72 + markets * (marketBar + 6);
