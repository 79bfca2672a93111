import type { ApiPlan } from '../../plan/api-plan.js';
import type { DeclaredField, DeclaredNode, ShapePlan } from '../../plan/declared.js';
import type { InputField, InputPlan } from '../../plan/input-plan.js';
import { walkShapes } from '../../plan/walk-members.js';
import type { ReviewFinding } from '../finding.js';

/** How names are written. */
export type NameStyle = 'camelCase' | 'snake_case' | 'kebab-case' | 'PascalCase';

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
    case 'whenPresent':
    case 'deprecated':
      return nodeNames(node.node, at);
    case 'cases': {
      const inner = node.cases.map((one) => one.node);
      return [...inner, ...(node.otherwise === null ? [] : [node.otherwise])].flatMap((one) =>
        nodeNames(one, at),
      );
    }
    case 'column':
    case 'derived':
    case 'converted':
    case 'constant':
    case 'count':
    case 'nested':
    case 'nestedList':
    case 'first':
    case 'unsealed':
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

const shapesOf = (api: ApiPlan): readonly ShapePlan[] => [
  ...new Set(api.endpoints.flatMap(({ returns }) => (returns === null ? [] : walkShapes(returns)))),
];

/** Names of members, parameters and endpoints that are not in the style of the others. */
export const checkNames = (api: ApiPlan, style: NameStyle): readonly ReviewFinding[] => {
  const inputs = new Set(api.endpoints.flatMap(({ takes }): InputPlan[] => (takes === null ? [] : [takes])));
  const names: readonly Named[] = [
    ...shapesOf(api).flatMap((shape) => shapeNames(shape.fields, shape.name)),
    ...[...inputs].flatMap((input) => inputNames(input.fields, input.name)),
    ...api.endpoints.flatMap(({ name, filters }): Named[] => [
      ...name.split('.').map((part): Named => [name, part]),
      ...filters.map((filter): Named => [`${name}?${filter.name}`, filter.name]),
    ]),
  ];
  const wrong = new Map(names.filter(([, name]) => !STYLES[style].test(name)));
  return [...wrong].map(([place, name]) => ({
    code: 'style',
    severity: 'warning',
    place,
    message: `"${name}" is not ${style}.`,
    advice: 'Rename it before clients rely on it, or name another style in the configuration.',
  }));
};

/** Shapes that take every column: one that is added goes out without anybody deciding it. */
export const checkEverything = (api: ApiPlan): readonly ReviewFinding[] =>
  shapesOf(api)
    .filter(({ fields }) => fields.some(({ node }) => node.kind === 'column' && node.unnamed === true))
    .map(({ name, entity }) => ({
      code: 'everything',
      severity: 'warning',
      place: name,
      message: `It takes every column of ${entity.name} that is not sealed: one that is added goes out too.`,
      advice: 'List the columns: gribo draft writes such a list.',
    }));
