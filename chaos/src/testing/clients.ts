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
}

/** Clients at work, while something goes wrong now and then. @param trouble is called between */
export const working = async (
  ask: Ask | readonly Ask[],
  ledger: Ledger,
  { many, milliseconds, counters, insists = false }: ClientOptions,
  trouble: (() => Promise<void> | void) | null = null,
): Promise<number> => {
  const end = Date.now() + milliseconds;
  const asks = Array.isArray(ask) ? (ask as readonly Ask[]) : [ask as Ask];
  let requests = 0;
  const client = async (n: number): Promise<void> => {
    for (let i = n; Date.now() < end; i++) {
      const one = asks[i % asks.length] as Ask;
      if (i % 3 === 0 && counters.length > 0) await ledger.count(one, counters[i % counters.length] ?? 1);
      else await ledger.create(one, insists);
      requests += 1;
    }
  };
  const making = async (): Promise<void> => {
    while (trouble !== null && Date.now() < end) {
      await pause(20 + Math.random() * 150);
      await trouble();
    }
  };
  await Promise.all([making(), ...Array.from({ length: many }, (_, n) => client(n))]);
  return requests;
};
