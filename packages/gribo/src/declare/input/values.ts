import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import type { ColumnPlan } from '../../plan/entity-plan.js';
import type { InputField, InputNode, InputPlan } from '../../plan/input-plan.js';
import { valuesEntity, valuesLink } from '../../plan/values-entity.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { inheritedName } from '../entity/inherited.js';
import { Broken } from '../references/member.js';
import { type ReadMember, readLiteral } from '../references/read-literal.js';
import type { ShapeOptions } from '../shape/shape.js';
import type { StandardInput } from '../types/standard-types.js';
import type { CheckedValues, NamedValues } from '../types/values-types.js';
import { presetFindings } from './check-presets.js';
import { fieldsOf, type InputRef, inputRefOf } from './input-ref.js';
import { standardOf } from './standard.js';

/** What a column can say only where it stands in a table, as it is written. */
const inTables = ({
  key,
  generated,
  defaulted,
  stamped,
  unique,
  sealed,
  via,
  coded,
  stored,
}: ColumnPlan): string[] => [
  ...(key ? ['.key()'] : []),
  ...(generated ? ['.generated()'] : []),
  ...(defaulted ? ['.defaulted()'] : []),
  ...(stamped !== null ? ['.stamped()'] : []),
  ...(unique ? ['.unique()'] : []),
  ...(sealed !== null ? ['.sealed()'] : []),
  ...(via !== null ? ['.via()'] : []),
  ...(coded !== null ? ['.coded()'] : []),
  ...(stored !== '' ? ['.stored()'] : []),
];

const columnFinding = (column: ColumnPlan): string | null => {
  if (column.name !== '') return 'this is a column of a row: values are columns of their own, such as text()';
  const said = inTables(column);
  return said.length === 0 ? null : `values stand in no table: leave ${said.join(', ')} out`;
};

const fieldFindings = ({ name, node }: Pick<InputField, 'name' | 'node'>, at: string): readonly Finding[] => {
  const path = `${at}.${name}`;
  const inherited = inheritedName(name, 'such as its use');
  if (inherited !== null) return [{ path, message: inherited }];
  if (node.kind === 'inputGroup') return node.fields.flatMap((field) => fieldFindings(field, path));
  const message = node.kind === 'set' ? columnFinding(node.column) : null;
  return message === null ? [] : [{ path, message }];
};

/** A node under the name that its member has. */
const placed = (node: InputNode, name: string): InputNode => {
  switch (node.kind) {
    case 'set':
      return freeze({ ...node, column: freeze({ ...node.column, name, stored: name }) });
    case 'inputGroup': {
      const input = planOf(name, null, node.fields);
      return freeze({
        kind: 'nestedInput',
        link: valuesLink(name, 'toOne', input.entity),
        input,
        min: null,
        max: null,
      });
    }
    case 'nestedInput': {
      const input = node.input.name === '' ? freeze({ ...node.input, name }) : node.input;
      return freeze({ ...node, input, link: freeze({ ...node.link, name }) });
    }
    default:
      return node satisfies never;
  }
};

const planOf = (name: string, about: string | null, fields: readonly InputField[]): InputPlan => {
  const named = fields.map((field) => freeze({ ...field, node: placed(field.node, field.name) }));
  const columns = named.flatMap(({ node }) => (node.kind === 'set' ? [node.column] : []));
  return freeze({
    kind: 'input',
    name,
    entity: valuesEntity(columns),
    about,
    fields: freeze(named),
    amends: false,
    fixed: freeze([]),
  });
};

/** What is wrong with members, each under its path. */
const findingsOf = (members: readonly ReadMember<InputRef>[], at: string): readonly Finding[] =>
  fieldsOf(members).flatMap((field) => fieldFindings(field, at));

/**
 * Declares values that stand in no table: what a command is told, and what a query asks.
 *
 * @param members columns of their own, each required unless it is `optional` or `preset`; `given` an audience, it is there for
 * that one only; groups of members, `values(…)` and `list(values(…))` inside
 * @param options `name`: what messages and descriptions call it; an API names it after its endpoint where nothing is said
 * @throws {DeclarationError} `DECLARATION` listing everything in the literal that is no such member
 * @example
 * values({ reason: text({ max: 200 }), berth: optional(integer()) })
 */
export const values = <const F>(
  members: CheckedValues<F>,
  options: ShapeOptions = {},
): StandardInput<NamedValues<F>, false, unknown> => {
  const name = options.name ?? '';
  const at = name === '' ? 'values' : name;
  const literal: unknown = members;
  const read = isPlainLiteral(literal)
    ? readLiteral(literal, inputRefOf)
    : { members: [], broken: new Broken('expected an object of members') };
  const faults = [...(read.broken?.findings(at) ?? []), ...findingsOf(read.members, at)];
  DeclarationError.throwIfAny(at === 'values' ? 'values' : `values "${name}"`, faults);
  const plan = planOf(name, options.about ?? null, fieldsOf(read.members));
  DeclarationError.throwIfAny(
    at === 'values' ? 'values' : `values "${name}"`,
    presetFindings({ ...plan, name: at }),
  );
  // The fields' types exist for the compiler only.
  return freeze({ plan, '~standard': standardOf(plan) }) as unknown as StandardInput<
    NamedValues<F>,
    false,
    unknown
  >;
};
