import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { db } from '../../../../docs/examples/fleet.js';
import { given, holds, input, optional, resolve, shape } from '../index.js';
import { emitReader } from '../read/generate-reader.js';
import { emitProgram } from '../write/generated/generate.js';
import { SourceWriter } from './source-writer.js';

const PAGE = readFileSync(fileURLToPath(new URL('../../../../docs/programs.md', import.meta.url)), 'utf8');

/** The programs of the page, without what is said about their lines. */
const shown = [...PAGE.matchAll(/```js\n(.*?)```/gs)].map(([, code = '']) =>
  code
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '' && !line.startsWith('//')),
);

const linesOf = (emit: (out: SourceWriter) => void): string[] => {
  const out = new SourceWriter();
  emit(out);
  return out.toString().split('\n');
};

describe('the page about generated programs', () => {
  const CallLine = shape(db.portCall, (c) => ({ eta: c.eta }));
  const Card = shape(db.vessel, (v) => ({
    id: v.id,
    name: v.name,
    sign: given(
      holds([v.kind], (kind) => kind !== 'tug'),
      v.callSign,
    ),
    calls: CallLine(v.portCalls),
  }));
  const NewCall = input(db.portCall, (c) => ({ eta: c.eta }));
  const NewVessel = input(db.vessel, (v) => ({
    name: v.name,
    more: { sign: optional(v.callSign) },
    calls: optional(NewCall(v.portCalls)),
  }));

  it('shows the writer as it is generated', () => {
    expect(linesOf((out) => emitProgram('bytes', resolve(Card).shape, out))).to.deep.equal(shown[0]);
  });

  it('shows the reader as it is generated', () => {
    expect(linesOf((out) => emitReader(NewVessel.plan, out))).to.deep.equal(shown[1]);
  });
});
