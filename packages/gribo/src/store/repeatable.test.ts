import { expect } from 'chai';
import { inKeyOrder, Repeatable } from '../kit.js';
import { stock } from '../testing/stock.js';

describe('batches that come again', () => {
  const numbers = (from: number, many: number): readonly number[] =>
    Array.from({ length: many }, (_, i) => from + i);

  const read = async (source: AsyncIterable<readonly number[]>, most = Number.POSITIVE_INFINITY) => {
    const all: number[] = [];
    for await (const batch of source) {
      all.push(...batch);
      if (all.length >= most) break;
    }
    return all;
  };

  it('do so from the start, wherever they were left, and their source is read once and ended', async () => {
    let isEnded = false;
    async function* come() {
      try {
        for (let i = 0; i < 3; i++) yield numbers(i * 10, 10);
      } finally {
        isEnded = true;
      }
    }
    const source = new Repeatable(come());
    expect(await read(source, 15)).to.deep.equal(numbers(0, 20));
    expect([source.isWhole, isEnded]).to.deep.equal([true, false]);
    expect(await read(source)).to.deep.equal(numbers(0, 30));
    expect(await read(source)).to.deep.equal(numbers(0, 30));
    await source.end();
    expect(isEnded).to.equal(true);
  });

  it('end a source that nobody has read to its end', async () => {
    let isEnded = false;
    async function* come() {
      try {
        for (;;) yield numbers(0, 10);
      } finally {
        isEnded = true;
      }
    }
    const source = new Repeatable(come());
    await read(source, 10);
    await source.end();
    expect(isEnded).to.equal(true);
  });

  it('are not kept where there are too many of them', async () => {
    async function* come() {
      yield numbers(0, 2000);
      yield numbers(2000, 1);
    }
    const source = new Repeatable(come());
    expect((await read(source, 2000)).length).to.equal(2000);
    expect(source.isWhole).to.equal(true);
    expect((await read(source)).length).to.equal(2001);
    expect(source.isWhole).to.equal(false);
  });
});

describe('things in the order of their rows', () => {
  it('are in that of the kinds of their keys, those without a key last, those of one row as they came', () => {
    const { columns } = stock.vessel.entity;
    const of = (name: string) => columns.filter((column) => column.name === name);
    const ordered = (column: string, values: readonly unknown[]) =>
      inKeyOrder(
        of(column),
        values.map((value, i) => ({ value, i })),
        ({ value }) => value,
      ).map(({ i }) => i);
    expect(ordered('id', [10, 9, null, 9, 100])).to.deep.equal([1, 3, 0, 4, 2]);
    expect(ordered('weight', [10n, 9n, undefined])).to.deep.equal([1, 0, 2]);
    expect(ordered('tonnage', ['10.0', '9.0'])).to.deep.equal([1, 0]);
    expect(ordered('kind', ['tug', 'bulk'])).to.deep.equal([1, 0]);
  });
});
