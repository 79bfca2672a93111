import { key, quoted, reach } from '../draft/names.js';
import type { Draft, DraftedBody, Term } from './draft-terms.js';

/** The text of terms, with the functions that they call. */
class Writing {
  readonly called = new Set<string>();

  body(what: 'shape' | 'input', { name, bound, members }: DraftedBody): string {
    this.called.add(what);
    return [
      `export const ${name} = ${what}(`,
      `  ${reach('db', bound.entity.name)},`,
      '  (row) => ({',
      ...members.map(([member, term]) => `    ${key(member)}: ${this.#term(term)},`),
      '  }),',
      `  { name: ${quoted(name)} },`,
      ');',
    ].join('\n');
  }

  #term(term: Term): string {
    switch (term.kind) {
      case 'reached':
        return term.path.reduce(reach, 'row');
      case 'text':
        return quoted(term.text);
      case 'texts':
        return `[${term.texts.map(quoted).join(', ')}]`;
      case 'cases': {
        const member = this.#term(term.member);
        return `{ ${term.endpoints.map((endpoint) => `${key(endpoint)}: ${member}`).join(', ')} }`;
      }
      case 'call':
        this.called.add(term.called);
        return `${term.called}(${term.given.map((one) => this.#term(one)).join(', ')})`;
      case 'nested':
        return `${term.shape}(${this.#term(term.of)})`;
    }
  }
}

/** The text of a draft: a module that compiles as it stands. */
export const draftSource = ({ shapes, input }: Draft, model: string): string => {
  const writing = new Writing();
  const bodies = [
    ...shapes.map((shape) => writing.body('shape', shape)),
    ...(input === null ? [] : [writing.body('input', input)]),
  ];
  const head = `import { ${[...writing.called].sort().join(', ')} } from 'gribo';\nimport { db } from ${quoted(model)};`;
  return `${[head, ...bodies].join('\n\n')}\n`;
};
