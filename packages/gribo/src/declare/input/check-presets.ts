import type { Finding } from '../../errors/declaration-error.js';
import type { InputField, InputPlan } from '../../plan/input-plan.js';
import { reader } from '../../read/reader.js';

/** What is wrong with the presets of an input: each is read as if it had been sent, so it has to be right. */
export const presetFindings = (plan: InputPlan): readonly Finding[] => {
  const look = (fields: readonly InputField[], at: string): readonly Finding[] =>
    fields.flatMap((field): readonly Finding[] => {
      const { name, node, presence } = field;
      const path = `${at}.${name}`;
      if (presence.kind !== 'preset') return node.kind === 'inputGroup' ? look(node.fields, path) : [];
      const alone = {
        plan: { ...plan, fields: [{ ...field, presence: { kind: 'required' } as const, when: null }] },
      };
      const read = reader(alone, {}, { engine: 'interpreted' }).object({ [name]: presence.value });
      return read.ok
        ? []
        : read.issues.map(({ message }) => ({ path, message: `its preset would be refused: ${message}` }));
    });
  return look(plan.fields, plan.name);
};
