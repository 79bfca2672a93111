import { expect } from 'chai';
import { gribo } from '../testing/run-gribo.js';

describe('gribo formats', () => {
  it('lists what the API speaks, in order of preference', async () => {
    const { code, out } = await gribo(['formats']);
    expect(code).to.equal(0);
    expect(out).to.match(/1 +json +application\/json +sends, streams, reads/);
    expect(out).to.not.match(/\bform\b/);
    const listed = JSON.parse((await gribo(['formats', '--json'])).out) as { name: string }[];
    expect(listed.map(({ name }) => name)).to.deep.equal(['json', 'csv', 'xml', 'cbor', 'ndjson']);
  });
});
