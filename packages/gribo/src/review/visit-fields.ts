import type { ResolvedField } from '../plan/resolved.js';

type VisitField = (field: ResolvedField, path: string) => void;

/** Visits every member of a shape, nested ones too, with dotted paths. */
export const visitFields = (fields: readonly ResolvedField[], above: string, visit: VisitField): void => {
  for (const field of fields) {
    const path = above === '' ? field.name : `${above}.${field.name}`;
    visit(field, path);
    const { node } = field;
    if (node.kind === 'group') visitFields(node.fields, path, visit);
    else if (node.kind === 'nested' || node.kind === 'first') visitFields(node.shape.fields, path, visit);
    else if (node.kind === 'nestedList') visitFields(node.shape.fields, `${path}[]`, visit);
  }
};
