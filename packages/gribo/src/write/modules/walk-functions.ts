import type { ConversionPlan } from '../../plan/conversion.js';
import type { ResolvedShape } from '../../plan/resolved.js';
import { walkResolved } from '../../plan/walk-resolved.js';

/** What a walk over everything that a program calls is told. */
export interface FunctionVisitor {
  /** A function of the user's, and the member that it is for. */
  readonly user: (called: unknown, member: string) => void;
  readonly conversion: (conversion: ConversionPlan) => void;
}

/** Tells a visitor every function that writing a shape calls. */
export const walkFunctions = (shape: ResolvedShape, visitor: FunctionVisitor): void =>
  walkResolved(shape, {
    value: (node, member) => {
      if (node.kind === 'column' && node.column.via !== null) visitor.user(node.column.via, member);
      if (node.kind === 'derived') visitor.user(node.compute, member);
      if (node.kind === 'converted') visitor.conversion(node.conversion);
      if (node.kind === 'figure' && node.of !== null) visitor.user(node.of.look, member);
    },
    condition: (leaf, member) => {
      if (leaf.kind === 'holds') visitor.user(leaf.test, member);
      if (leaf.kind === 'compares') visitor.user(leaf.compare, member);
    },
    selection: ({ pick }, member) => {
      if (pick !== null) visitor.user(pick, member);
    },
  });
