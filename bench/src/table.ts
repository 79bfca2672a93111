import Table from 'cli-table3';
import { type Figure, isReached, type Unit } from './figure.js';

/** A number with its unit, as people read it. */
export const shown = (value: number, unit: Unit): string => {
  if (unit === 'ms' && value < 0.1) return `${(value * 1000).toFixed(2)} µs`;
  if (unit === 'ms' || unit === 's') return `${value.toFixed(value < 10 ? 2 : 1)} ${unit}`;
  return unit === 'per s' ? `${value.toFixed(0)} per s` : `${value.toFixed(0)} ${unit}`;
};

const barOf = ({ bar, ratio, unit }: Figure): string => {
  if (bar === null) return '';
  return ratio === null ? `at most ${shown(bar, unit)}` : `${Number(bar.toFixed(2))}×`;
};

const rowOf = (figure: Figure): string[] => {
  const { what, than, theirs, ours, unit, ratio, beside } = figure;
  return [
    what,
    than === null || theirs === null ? '' : `${than}: ${shown(theirs, unit)}`,
    shown(ours, unit),
    ratio === null ? '' : `${ratio.toFixed(2)}×`,
    `${barOf(figure)}${isReached(figure) ? '' : ' MISSED'}`,
    beside,
  ];
};

/** All figures as one table. */
export const drawTable = (figures: readonly Figure[]): string => {
  const table = new Table({
    head: ['what', 'compared with', 'gribo', 'ratio', 'bar', 'beside'],
    style: { head: [], border: [], compact: true },
  });
  table.push(...figures.map(rowOf));
  return table.toString();
};
