import type { ValueNode } from '../../plan/condition.js';
import { Broken, type Home, type MemberRef, valueNode } from './member.js';

/** Several values of one row, as an input of something computed from them. */
export interface Combined {
  readonly inputs: readonly ValueNode[];
  readonly home: Home | null;
  readonly seals: readonly string[];
}

/** Reads the inputs of `derive` and `holds`, or says why they do not fit together. */
export const combine = (values: readonly unknown[], wanted: string): Combined | Broken => {
  const members = values.map((value) => valueNode(value, wanted));
  const broken = members.find((member) => member instanceof Broken);
  if (broken instanceof Broken) return broken;
  const sound = members.filter(
    (member): member is Exclude<typeof member, Broken> => !(member instanceof Broken),
  );
  const homes = sound.map((member: MemberRef) => member.home).filter((home) => home !== null);
  if (new Set(homes.map((home) => home.origin)).size > 1) {
    return new Broken(`${wanted} takes values of one row, these are of several`);
  }
  return {
    inputs: Object.freeze(sound.map((member) => member.node)),
    home: homes[0] ?? null,
    seals: [...new Set(sound.flatMap((member) => member.seals))],
  };
};
