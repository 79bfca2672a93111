import {
  ApiProblem,
  type Call,
  connect,
  edition,
  type Reply,
} from '@gribo-examples/harbour/generated/client.js';

/** Whom the page is for: everybody, or a ship's agent who has shown a token. */
export type Whom = 'public' | 'agent';

/** The token that the demo gives to agents. */
const TOKEN = 'demo-agent';

/** The operator whose vessels the agent with that token looks after. */
export const AGENT_OF = 'Lantern Bay Lines';

/** Where the API is, in the edition that the client was made for. */
const BASE = `/api/${edition}`;

const headersOf = (whom: Whom): Record<string, string> =>
  whom === 'agent' ? { authorization: `Bearer ${TOKEN}` } : {};

/** A client of the harbour's API. Agents see what the public sees, and more: the types are the public's. */
export const clientFor = (whom: Whom) => connect<'public'>({ base: BASE, headers: headersOf(whom) });

/** A client for what only agents do. */
export const agentClient = connect<'agent'>({ base: BASE, headers: headersOf('agent') });

export type Arrival = Reply<'portCalls.list', 'public'>['items'][number];
export type Vessel = Reply<'vessels.list', 'public'>['items'][number];
export type Announcement = Call<'portCalls.create', 'agent'>['body'];

/** What to tell of a failure. */
export const wordsOf = (error: unknown): string => {
  if (error instanceof ApiProblem) return error.message;
  return error instanceof TypeError ? 'The harbour does not answer. Is its server running?' : String(error);
};
