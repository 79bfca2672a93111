import type { InputNode, Presence } from './input-plan.js';

type Group = Extract<InputNode, { kind: 'inputGroup' }>;

/** A group may be left out where each of its members may. */
export const isWaivable = (node: InputNode): node is Group =>
  node.kind === 'inputGroup' && node.fields.every((field) => mayBeAbsent(field.presence, field.node));

/** Whether a member of an input may be left out of the body. */
export const mayBeAbsent = (presence: Presence, node: InputNode): boolean =>
  presence.kind !== 'required' || isWaivable(node);

/** Whether null stands for a member: for a group, where each of its columns may be null. */
export const mayBeCleared = (node: InputNode): boolean => {
  switch (node.kind) {
    case 'set':
      return node.column.nullable;
    case 'inputGroup':
      return node.fields.every((field) => field.node.kind === 'set' && field.node.column.nullable);
    case 'nestedInput':
      return false;
    default:
      return node satisfies never;
  }
};
