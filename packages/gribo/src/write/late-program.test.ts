import { expect } from 'chai';
import { csvLines, derive, entity, integer, list, model, shape, text, writer } from '../index.js';
import { thrownBy } from '../testing/engines.js';

const { stone } = model({ stone: entity('stone', { id: integer().key(), name: text().nullable() }) }, {});

const rows = Array.from({ length: 100 }, (_, id) => ({ id, name: id % 3 === 0 ? null : `stone ${id}` }));

describe('a program that is made once there are rows enough', () => {
  it('goes on where the interpreter stopped: nothing is seen of it', async () => {
    let calls = 0;
    const Stone = shape(stone, (s) => ({
      id: s.id,
      name: s.name,
      twice: derive([s.id], integer(), (id) => {
        calls++;
        return id * 2;
      }),
    }));
    const [auto, generated] = [undefined, 'generated' as const].map((engine) =>
      engine === undefined ? writer(list(Stone)) : writer(list(Stone), {}, { engine }),
    );
    const wanted = JSON.stringify(generated?.object(rows));
    for (const made of [
      JSON.stringify(auto?.object(rows)),
      auto?.json(rows),
      new TextDecoder().decode(auto?.bytes(rows)),
    ])
      expect(made).to.equal(wanted);
    expect(calls).to.equal(400);
    expect(auto?.engine).to.equal('generated');
    const Other = shape(stone, (s) => ({ id: s.id, name: s.name }));
    expect(await new Response(writer(list(Other)).stream(rows)).text()).to.equal(
      JSON.stringify(writer(list(Other), {}, { engine: 'interpreted' }).object(rows)),
    );
    const csv = csvLines(Other);
    const [first, again] = [csv.bytes(rows), csv.bytes(rows)];
    expect(Buffer.from(first).equals(Buffer.from(again))).to.equal(true);
  });

  it('finds the same wrong, before and after', () => {
    const Stone = shape(stone, (s) => ({ id: s.id, name: s.name }), { name: 'Stone' });
    for (const at of [5, 70, 5]) {
      const wrong = rows.map((row) => (row.id === at ? { ...row, name: 7 } : row));
      const error = thrownBy(() => writer(list(Stone)).bytes(wrong as never)) as Error;
      expect(error.message).to.contain(`Stone[${at}].name: expected a string`);
    }
  });
});
