import type { EntityPlan } from '../plan/entity-plan.js';
import type { InputField, InputNode, InputPlan } from '../plan/input-plan.js';
import { valuesEntity } from '../plan/values-entity.js';
import { freeze } from '../util/freeze.js';
import { mapKept } from '../util/map-same.js';
import { thereIn } from './condition-in.js';
import type { Here } from './here.js';

/** The members of an input that are there in one edition. */
export const inputFieldsIn = (fields: readonly InputField[], here: Here): readonly InputField[] =>
  mapKept(fields, (field) => {
    const there = thereIn(field, here);
    if (there === null) return null;
    const node = nodeIn(there.node, here);
    return node === there.node ? there : freeze({ ...there, node });
  });

const nodeIn = (node: InputNode, here: Here): InputNode => {
  switch (node.kind) {
    case 'set':
      return node;
    case 'inputGroup': {
      const fields = inputFieldsIn(node.fields, here);
      return fields === node.fields ? node : freeze({ ...node, fields });
    }
    case 'nestedInput': {
      const input = inputIn(node.input, here);
      return input === node.input ? node : freeze({ ...node, input });
    }
    default:
      return node satisfies never;
  }
};

/** Values stand in no table: their entity has what they are in this edition. */
const entityIn = ({ entity }: InputPlan, fields: readonly InputField[]): EntityPlan =>
  entity.kind === 'values'
    ? valuesEntity(fields.flatMap(({ node }) => (node.kind === 'set' ? [node.column] : [])))
    : entity;

/**
 * An input as it is in one edition: a member that is not there in it does not exist.
 *
 * @returns the input itself where nothing of it depends on the edition
 */
export const inputIn = (input: InputPlan, here: Here): InputPlan => {
  const fields = inputFieldsIn(input.fields, here);
  const fixed = mapKept(input.fixed, (one) => thereIn(one, here));
  const isSame = fields === input.fields && fixed === input.fixed;
  return isSame ? input : freeze({ ...input, entity: entityIn(input, fields), fields, fixed });
};
