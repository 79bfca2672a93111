import type { InputField, InputNode, InputPlan } from '../plan/input-plan.js';
import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';
import { keptForEach } from '../util/kept-for-each.js';
import { mapKept } from '../util/map-same.js';
import { Resolver } from './resolver.js';

/** Leaves out of inputs what is not there for one audience. */
class Settling {
  readonly #resolver: Resolver;
  readonly #audience: string | null;

  constructor(audience: string | null) {
    this.#resolver = new Resolver({ audience });
    this.#audience = audience;
  }

  /** The fields that are left; the same list where all of them stay as they are. */
  fields(fields: readonly InputField[]): readonly InputField[] {
    return mapKept(fields, (field) => {
      const { when } = field;
      if (when !== null && this.#resolver.verdict(when) !== true) return null;
      const node = this.#node(field.node);
      return node === field.node && when === null ? field : freeze({ ...field, node, when: null });
    });
  }

  #node(node: InputNode): InputNode {
    switch (node.kind) {
      case 'set':
        return node;
      case 'inputGroup': {
        const fields = this.fields(node.fields);
        return fields === node.fields ? node : freeze({ ...node, fields });
      }
      case 'nestedInput': {
        const input = settledInput(node.input, this.#audience);
        return input === node.input ? node : freeze({ ...node, input });
      }
      default:
        return node satisfies never;
    }
  }
}

const sameNode = (one: InputNode, other: InputNode): boolean => {
  if (one === other) return true;
  if (one.kind === 'inputGroup') return other.kind === 'inputGroup' && sameFields(one.fields, other.fields);
  return (
    one.kind === 'nestedInput' &&
    other.kind === 'nestedInput' &&
    one.input === other.input &&
    one.min === other.min &&
    one.max === other.max
  );
};

/** Whether what is left for two audiences is the same. */
const sameFields = (some: readonly InputField[], others: readonly InputField[]): boolean =>
  some.length === others.length &&
  some.every(({ name, node }, i) => {
    const other = others[i];
    return other !== undefined && other.name === name && sameNode(node, other.node);
  });

/** The forms of an input that some audience has. */
const formsOf = keptBy((_input: InputPlan): InputPlan[] => []);

/**
 * An input as it is for one audience: a member that is not there for it does not exist.
 *
 * @param input the input
 * @param audience whom it is for; null: callers of no audience
 * @returns the input itself where nothing of it depends on the audience; one object for all audiences that have the same of it
 * @example
 * settledInput(NewVessel.plan, 'agent').fields.map(({ name }) => name)
 */
export const settledInput: (input: InputPlan, audience: string | null) => InputPlan = keptForEach(
  (input: InputPlan, audience) => {
    const fields = new Settling(audience).fields(input.fields);
    if (fields === input.fields) return input;
    const forms = formsOf(input);
    const known = forms.find((form) => sameFields(form.fields, fields));
    if (known !== undefined) return known;
    const made: InputPlan = freeze({ ...input, fields });
    forms.push(made);
    return made;
  },
);
