import type { InputPlan } from '../../plan/input-plan.js';
import type { ContractInput } from '../contract.js';
import { describeInput, entityNameOf } from './describe-input.js';
import { plainName } from './shape-catalog.js';

/** Gathers inputs, each once, under names of their own. */
export class InputCatalog {
  readonly inputs: Map<string, ContractInput> = new Map();
  readonly #names = new Map<InputPlan, string>();

  /** @param audience whom the input is for, which tells its name apart from those of its other forms */
  nameOf(input: InputPlan, audience: string | null): string {
    const known = this.#names.get(input);
    if (known !== undefined) return known;
    const name = this.#freeName(plainName(input.name), audience);
    this.#names.set(input, name);
    // The name is taken before the inputs inside choose theirs.
    this.inputs.set(name, { entity: entityNameOf(input), members: [] });
    this.inputs.set(
      name,
      describeInput(input, (inner) => this.nameOf(inner, audience)),
    );
    return name;
  }

  #freeName(base: string, audience: string | null): string {
    if (!this.inputs.has(base)) return base;
    const ofAudience = audience === null ? base : `${base}.${plainName(audience)}`;
    let name = ofAudience;
    for (let next = 2; this.inputs.has(name); next++) name = `${ofAudience}.${next}`;
    return name;
  }
}
