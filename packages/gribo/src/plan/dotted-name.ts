import type { LinkPlan } from './entity-plan.js';

/** `vessel.operator.name`: what stands at the end of links, a column or another link. */
export const dottedName = (path: readonly LinkPlan[], last: { readonly name: string }): string =>
  [...path, last].map(({ name }) => name).join('.');
