import type { ApiPlan } from '../../plan/api-plan.js';
import type { DeclaredField, DeclaredNode } from '../../plan/declared.js';
import type { InputField, InputPlan } from '../../plan/input-plan.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import type { NameStyle } from '../name-style.js';
import { walkShapesOf } from '../shapes-of.js';

const STYLES: Readonly<Record<NameStyle, RegExp>> = {
  camelCase: /^[a-z][A-Za-z\d]*$/,
  snake_case: /^[a-z][a-z\d]*(?:_[a-z\d]+)*$/,
  'kebab-case': /^[a-z][a-z\d]*(?:-[a-z\d]+)*$/,
  PascalCase: /^[A-Z][A-Za-z\d]*$/,
};

type Named = readonly [place: string, name: string];

const shapeNames = (fields: readonly DeclaredField[], at: string): readonly Named[] =>
  fields.flatMap(({ name, node }) => [[`${at}.${name}`, name] as const, ...nodeNames(node, `${at}.${name}`)]);

/** The names inside groups, whatever they are wrapped in. */
const nodeNames = (node: DeclaredNode, at: string): readonly Named[] => {
  switch (node.kind) {
    case 'group':
      return shapeNames(node.fields, at);
    case 'given':
    case 'unsealed':
    case 'unlessNull':
    case 'deprecated':
      return nodeNames(node.node, at);
    case 'either':
      return [node.node, node.otherwise].flatMap((one) => nodeNames(one, at));
    case 'cases': {
      const inner = node.cases.map((one) => one.node);
      return [...inner, ...(node.otherwise === null ? [] : [node.otherwise])].flatMap((one) =>
        nodeNames(one, at),
      );
    }
    case 'column':
    case 'fact':
    case 'derived':
    case 'converted':
    case 'constant':
    case 'figure':
    case 'nested':
    case 'nestedList':
    case 'first':
      return [];
    default:
      return node satisfies never;
  }
};

const inputNames = (fields: readonly InputField[], at: string): readonly Named[] =>
  fields.flatMap(({ name, node }): readonly Named[] => {
    const place = `${at}.${name}`;
    if (node.kind === 'inputGroup') return [[place, name], ...inputNames(node.fields, place)];
    if (node.kind === 'nestedInput')
      return [[place, name], ...inputNames(node.input.fields, node.input.name)];
    return [[place, name]];
  });

const allNames = (api: ApiPlan): readonly Named[] => {
  const inputs = new Set(api.endpoints.flatMap(({ takes }): InputPlan[] => (takes === null ? [] : [takes])));
  return [
    ...walkShapesOf(api).flatMap((shape) => shapeNames(shape.fields, shape.name)),
    ...[...inputs].flatMap((input) => inputNames(input.fields, input.name)),
    ...api.endpoints.flatMap(({ name, filters }): Named[] => [
      ...name.split('.').map((part): Named => [name, part]),
      ...filters.map((filter): Named => [`${name}?${filter.name}`, filter.name]),
    ]),
  ];
};

/** Names of members, parameters and endpoints that are not in the style of the others. */
const find = ({ api, style: wanted }: ReviewContext): readonly Found[] => {
  const wrong = new Map(allNames(api).filter(([, name]) => !STYLES[wanted].test(name)));
  return [...wrong].map(([place, name]) => ({ place, message: `"${name}" is not ${wanted}.` }));
};

export const style: FindingRule = {
  code: 'style',
  severity: 'warning',
  rule: 'A name is not in the style of the others.',
  advice: 'Rename it before clients rely on it, or name another style in the configuration.',
  find: find,
};
