import type { Ask, Ledger } from './ledger.js';
import { pause } from './processes.js';

export interface ClientOptions {
  /** How many clients there are. */
  readonly many: number;
  readonly milliseconds: number;
  /** The vessels that they count on. */
  readonly counters: readonly number[];
  /** Whether they ask again under the same key until they know. */
  readonly insists?: boolean;
  /** Whether enough has gone wrong: they work until then, for a slow machine is no mistake of ours. */
  readonly enough?: () => boolean;
}

/** Milliseconds after which they stop, whatever was seen. */
const LONGEST = 60_000;

/** Clients at work, while something goes wrong now and then. @param trouble is called between */
export const working = async (
  ask: Ask | readonly Ask[],
  ledger: Ledger,
  { many, milliseconds, counters, insists = false, enough = () => true }: ClientOptions,
  trouble: (() => Promise<void> | void) | null = null,
): Promise<number> => {
  const start = performance.now();
  const goesOn = (): boolean => {
    const since = performance.now() - start;
    return since < milliseconds || (since < milliseconds + LONGEST && !enough());
  };
  const asks = Array.isArray(ask) ? (ask as readonly Ask[]) : [ask as Ask];
  let requests = 0;
  const client = async (n: number): Promise<void> => {
    for (let i = n; goesOn(); i++) {
      const one = asks[i % asks.length] as Ask;
      if (i % 3 === 0 && counters.length > 0) await ledger.count(one, counters[i % counters.length] ?? 1);
      else await ledger.create(one, insists);
      requests += 1;
    }
  };
  const making = async (): Promise<void> => {
    while (trouble !== null && goesOn()) {
      await pause(20 + Math.random() * 150);
      await trouble();
    }
  };
  await Promise.all([making(), ...Array.from({ length: many }, (_, n) => client(n))]);
  return requests;
};
