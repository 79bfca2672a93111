import type { InputPlan } from '../../plan/input-plan.js';
import type { ContractInput } from '../contract.js';
import { describeInput } from './describe-input.js';
import { plainName } from './shape-catalog.js';

/** Gathers inputs, each once, under names of their own. */
export class InputCatalog {
  readonly inputs: Map<string, ContractInput> = new Map();
  readonly #names = new Map<InputPlan, string>();

  nameOf(input: InputPlan): string {
    const known = this.#names.get(input);
    if (known !== undefined) return known;
    const base = plainName(input.name);
    let name = base;
    for (let next = 2; this.inputs.has(name); next++) name = `${base}.${next}`;
    this.#names.set(input, name);
    // The name is taken before the inputs inside choose theirs.
    this.inputs.set(name, { entity: input.entity.name, members: [] });
    this.inputs.set(
      name,
      describeInput(input, (inner) => this.nameOf(inner)),
    );
    return name;
  }
}
