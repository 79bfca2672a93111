import { expect } from 'chai';
import { list, type RowError, shape, writer } from '../index.js';
import { bareVesselRow, fleet, vesselRow } from '../testing/fleet.js';

const Card = shape(fleet.vessel, ({ id, name }) => ({ id, name }), { name: 'Card' });
const cards = writer(list(Card));

const textOf = (stream: ReadableStream<Uint8Array>): Promise<string> => new Response(stream).text();

/** A source that tells how far it was read and whether it was ended. */
const source = (many: number, badAt = -1) => {
  const seen = { read: 0, ended: false };
  async function* rows(): AsyncGenerator<object> {
    try {
      for (let id = 0; id < many; id++) {
        seen.read++;
        yield id === badAt ? { id: 'x', name: 'bad' } : { id, name: 'n'.repeat(100) };
      }
    } finally {
      seen.ended = true;
    }
  }
  return { rows: rows(), seen };
};

describe('writer.stream', () => {
  it('gives the same document as json, for arrays, array-likes, iterables and async iterables', async () => {
    const rows = [vesselRow, bareVesselRow];
    const expected = cards.json(rows);
    expect(await textOf(cards.stream(rows))).to.equal(expected);
    expect(await textOf(cards.stream({ ...rows, length: 2 }))).to.equal(expected);
    expect(await textOf(cards.stream(new Set(rows)))).to.equal(expected);
    expect(
      await textOf(
        cards.stream(
          (async function* () {
            yield* rows;
          })(),
        ),
      ),
    ).to.equal(expected);
    // An async iterator may answer with anything that has a then.
    const left: object[] = [...rows];
    const next = () => {
      const step = { done: left.length === 0, value: left.shift() };
      // biome-ignore lint/suspicious/noThenProperty: that it is no promise is the point
      return { then: (answer: (step: object) => void) => answer(step) };
    };
    const thenable = { [Symbol.asyncIterator]: () => ({ next }) };
    expect(await textOf(cards.stream(thenable as never))).to.equal(expected);
    expect(await textOf(cards.stream([]))).to.equal('[]');
    expect(await textOf(writer(Card).stream(vesselRow))).to.equal('{"id":1,"name":"Anselma"}');
  });

  it('reads no further ahead than a chunk or two: the reader sets the pace', async () => {
    const { rows, seen } = source(100_000);
    const reader = cards.stream(rows).getReader();
    const { value } = await reader.read();
    expect(value?.length).to.be.within(60_000, 80_000);
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(seen.read).to.be.below(3000);
    await reader.cancel();
  });

  it('ends the source when the reader goes away', async () => {
    const { rows, seen } = source(100_000);
    const reader = cards.stream(rows).getReader();
    await reader.read();
    await reader.cancel();
    expect(seen).to.include({ ended: true });
  });

  it('fails where a row does not fit, without closing the document', async () => {
    const { rows, seen } = source(5000, 4000);
    const reader = cards.stream(rows).getReader();
    let text = '';
    let failure: RowError | null = null;
    try {
      for (;;) {
        const { done, value } = await reader.read();
        if (done) break;
        text += Buffer.from(value).toString();
      }
    } catch (error) {
      failure = error as RowError;
    }
    expect(failure?.message).to.equal('Card[4000].id: expected an integer, got "x"');
    expect(text.endsWith(']')).to.equal(false);
    expect(() => JSON.parse(text)).to.throw();
    expect(seen.ended).to.equal(true);
  });

  it('passes on what a source throws', async () => {
    async function* broken(): AsyncGenerator<object> {
      yield vesselRow;
      throw new Error('connection lost');
    }
    let message = '';
    await textOf(cards.stream(broken())).catch((error: Error) => {
      message = error.message;
    });
    expect(message).to.equal('connection lost');
  });

  it('refuses what cannot be iterated', () => {
    expect(() => cards.stream(5 as never)).to.throw('expected an iterable or async iterable of rows, got 5');
  });
});
