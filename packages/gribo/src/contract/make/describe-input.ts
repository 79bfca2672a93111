import type { JsonValue } from '../../plan/condition.js';
import { convert } from '../../plan/conversion.js';
import type { InputField, InputNode, InputPlan } from '../../plan/input-plan.js';
import { isWaivable, mayBeCleared } from '../../plan/may-be-absent.js';
import { jsonReady } from '../../values/kinds.js';
import type { ContractInput, ContractInputMember, ContractType } from '../contract.js';
import { contractValue } from './contract-value.js';

type NameInput = (input: InputPlan) => string;

const typeOf = (node: InputNode, nameOf: NameInput, amends: boolean): ContractType<ContractInputMember> => {
  switch (node.kind) {
    case 'set':
      return contractValue(node.conversions[0]?.reads ?? node.column.type);
    case 'inputGroup':
      return { kind: 'group', members: node.fields.map((field) => memberOf(field, nameOf, amends)) };
    case 'nestedInput':
      if (node.link.kind !== 'toMany') return { kind: 'object', of: nameOf(node.input) };
      return {
        kind: 'list',
        of: nameOf(node.input),
        ...(node.min === null ? {} : { least: node.min }),
        ...(node.max === null ? {} : { limit: node.max }),
      };
    default:
      return node satisfies never;
  }
};

/** A merge patch requires nothing and presets nothing: what is absent stays as it is. */
const whenOf = (
  { presence, node }: InputField,
  amends: boolean,
): Pick<ContractInputMember, 'when' | 'preset'> => {
  if (amends) return { when: 'optional' };
  switch (presence.kind) {
    case 'required':
      return isWaivable(node) ? { when: 'optional' } : {};
    case 'optional':
      return { when: 'optional' };
    case 'preset':
      return { when: 'preset', preset: presence.value };
    default:
      return presence satisfies never;
  }
};

/** What a column's example looks like in a body: led through what the value goes through on its way out. */
const exampleOf = (node: InputNode): JsonValue | undefined => {
  if (node.kind !== 'set' || node.column.example === undefined) return undefined;
  const { column, conversions } = node;
  const back = [...conversions].reverse();
  const shown = back.reduce((inner: unknown, conversion) => convert(conversion, inner), column.example);
  return jsonReady(conversions[0]?.yields ?? column.type, shown) as JsonValue;
};

/** A member of an input as its callers know it. */
export const memberOf = (field: InputField, nameOf: NameInput, amends: boolean): ContractInputMember => {
  const { name, node } = field;
  const about = node.kind === 'set' ? node.column.about : null;
  const example = exampleOf(node);
  return {
    name,
    type: typeOf(node, nameOf, amends),
    ...(mayBeCleared(node) ? { nullable: true } : {}),
    ...whenOf(field, amends),
    ...(about === null ? {} : { about }),
    ...(example === undefined ? {} : { example }),
  };
};

/** The name of the entity that an input is over; null for values. */
export const entityNameOf = ({ entity }: InputPlan): string | null =>
  entity.kind === 'values' ? null : entity.name;

/** What an input takes as its callers know it. */
export const describeInput = (input: InputPlan, nameOf: NameInput): ContractInput => ({
  entity: entityNameOf(input),
  ...(input.about === null ? {} : { about: input.about }),
  ...(input.amends ? { amends: true } : {}),
  ...(input.fixed.length === 0 ? {} : { fixed: input.fixed.map(({ member }) => member) }),
  members: input.fields.map((field) => memberOf(field, nameOf, input.amends)),
});
