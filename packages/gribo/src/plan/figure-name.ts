import type { FigureNode } from './condition.js';

/** The name under which a row keeps what is known of the rows behind a link. */
export const figureName = ({
  link,
  selection,
  of,
}: Pick<FigureNode<unknown>, 'link' | 'selection' | 'of'>): string =>
  `${link.name}${selection.name}${of === null ? '' : ` ${of.how} ${of.column.name}`}`;
