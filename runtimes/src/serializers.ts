import { memoryStore, type Store, samples } from 'gribo';
import type { StandAlone } from 'gribo/runtime';
import { db } from '../../examples/harbour/src/model.js';
import { serializerCase } from '../../examples/harbour/src/testing/serializer-case.js';
import { type Outcome, shown } from './outcome.js';

/** Modules that `gribo build` made, by their names. */
export type Serializers = Readonly<Record<string, StandAlone>>;

const outcomesOf = async (name: string, serializer: StandAlone, store: Store): Promise<Outcome[]> => {
  const { data, json } = await serializerCase(name, store);
  const streamed = new Uint8Array(await new Response(serializer.stream(data)).arrayBuffer());
  return [
    { what: `${name} json`, came: serializer.json(data) },
    { what: `${name} by the library`, came: json },
    { what: `${name} object`, came: JSON.stringify(serializer.object(data)) },
    { what: `${name} bytes`, came: shown(serializer.bytes(data)) },
    { what: `${name} stream`, came: shown(streamed) },
  ];
};

/** Every stand-alone serializer of the harbour, beside what the library writes. */
export const standAlone = async (serializers: Serializers): Promise<readonly Outcome[]> => {
  const store = memoryStore(db, samples(db, { seed: 3, rows: 25 }));
  const made: Outcome[] = [];
  for (const [name, serializer] of Object.entries(serializers)) {
    made.push(...(await outcomesOf(name, serializer, store)));
  }
  return made;
};
