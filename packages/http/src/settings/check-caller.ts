import { type AnyApi, DeclarationError } from 'gribo';
import { factsWanted } from 'gribo/kit';

/** Where nobody says who asks, what needs a fact about callers could never be answered: that is told at the start. */
export const checkCaller = (api: AnyApi): void => {
  const findings = [...factsWanted(api, null)].map(([path, facts]) => ({
    path,
    message: `it needs ${facts.map((name) => `caller.${name}`).join(', ')}: give serve a \`caller\``,
  }));
  DeclarationError.throwIfAny('serve', findings);
};
