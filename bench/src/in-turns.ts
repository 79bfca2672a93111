import { median } from './figure.js';

/** One way to make an answer. */
export type Side = () => Promise<Uint8Array | string>;

const timeOf = async (side: Side, calls: number): Promise<number> => {
  const start = performance.now();
  for (let i = 0; i < calls; i++) await side();
  return (performance.now() - start) / calls;
};

/**
 * Times all sides in turns, after making sure that they give the same.
 *
 * @param what the part of the bench, for when they do not
 * @returns each one's median, in milliseconds a call
 */
export const inTurns = async (
  what: string,
  sides: readonly Side[],
  rounds: number,
  calls: number,
): Promise<readonly number[]> => {
  const outputs = new Set<string>();
  for (const side of sides) outputs.add(Buffer.from(await side()).toString());
  if (outputs.size !== 1) throw new Error(`${what}: the outputs differ`);
  const times = sides.map((): number[] => []);
  for (let round = 0; round <= rounds; round++) {
    for (const [i, side] of sides.entries()) {
      const time = await timeOf(side, calls);
      // The first round warms up.
      if (round > 0) times[i]?.push(time);
    }
  }
  return times.map(median);
};
