import { entity, integer, model, shape, text, timestamp, writer } from 'gribo';
import { alone, type Figure, median } from './figure.js';

const TWENTY = 20;
const TIMES = 200;

/** The time from a declared shape of 20 members to its first response, each time for a new shape. */
export const benchFirstUse = (): Figure => {
  const times: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const names = Array.from({ length: TWENTY }, (_, n) => `m${i}x${n}`);
    const typeOf = (n: number) => (n % 3 === 0 ? integer() : n % 3 === 1 ? text() : timestamp());
    const columns = Object.fromEntries(names.map((name, n) => [name, typeOf(n)]));
    const { thing } = model({ thing: entity('thing', { id: integer().key(), ...columns }) }, {});
    const Thing = shape(
      thing,
      (t) => Object.fromEntries(names.map((name) => [name, t[name as 'id']])) as { id: typeof t.id },
    );
    const values = [1, 'text', new Date(0)] as const;
    const row = { id: 1, ...Object.fromEntries(names.map((name, n) => [name, values[n % 3]])) };
    const start = performance.now();
    writer(Thing).bytes(row);
    times.push(performance.now() - start);
  }
  return alone('making and first use of a writer for 20 members', median(times), 'ms', { bar: 0.5 });
};
