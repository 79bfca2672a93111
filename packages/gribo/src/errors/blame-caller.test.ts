import { expect } from 'chai';
import { type DeclarationError, entity, integer, model, shape, text } from '../index.js';
import { linesOfTheCaller } from './blame-caller.js';

const caught = (work: () => unknown): DeclarationError => {
  try {
    work();
  } catch (error) {
    return error as DeclarationError;
  }
  throw new Error('nothing was thrown');
};

describe('a mistake in a declaration', () => {
  const db = model({ vessel: entity('vessel', { id: integer().key(), name: text() }) }, {});
  const misspelt = () => shape(db.vessel, (v) => ({ name: (v as never)['nmae'] }));

  it('prints its message and the lines of whoever made it, and nothing once more', () => {
    const stack = [
      'DeclarationError: shape "vessel": one thing is wrong',
      '  vessel.name: vessel has no column or link "nmae".',
      '    at readFields (file:///srv/app/node_modules/gribo/lib/index.js:3695:11)',
      '    at shape (C:\\app\\node_modules\\gribo\\lib\\index.js:3695:11)',
      '    at serve (/srv/app/node_modules/.pnpm/x/node_modules/@gribo/http/lib/index.js:1:1)',
      '    at file:///srv/app/server.js:5:21',
      '    at ModuleJob.run (node:internal/modules/esm/module_job:325:25)',
    ];
    expect(linesOfTheCaller(stack.join('\n')).split('\n')).to.deep.equal([
      ...stack.slice(0, 2),
      '    at file:///srv/app/server.js:5:21',
    ]);
    const own = stack.slice(0, 4).join('\n');
    expect(linesOfTheCaller(own), 'all of it where none is theirs').to.equal(own);
  });

  it('has its code, its place and its findings, which are not printed beside the message', () => {
    const error = caught(misspelt);
    expect([error.code, error.path, error.findings.length]).to.deep.equal([
      'DECLARATION',
      'shape "vessel"',
      1,
    ]);
    expect(Object.keys(error)).to.deep.equal([]);
    expect(error.stack).to.match(/^DeclarationError: shape "vessel": one thing is wrong\n/);
  });

  it('is told with the line that made it, however deep in the library it was found', () => {
    const { stackTraceLimit } = Error;
    expect(caught(misspelt).stack).to.contain('blame-caller.test.ts');
    expect(Error.stackTraceLimit).to.equal(stackTraceLimit);
  });
});
