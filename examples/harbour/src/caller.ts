import { Problem } from '@gribo/http';
import type { CallerIn } from 'gribo';
import type { harbour } from './api.js';

type Caller = CallerIn<typeof harbour>;

/** Made-up tokens of the demo; a real application asks whoever keeps them. The agent looks after Lantern Bay Lines. */
const TOKENS: ReadonlyMap<string, Caller> = new Map<string, Caller>([
  ['demo-agent', { audience: 'agent', user: 'lantern', operatorId: 2 }],
  ['demo-office', { audience: 'harbourMaster', user: 'office' }],
]);

/** Who asks: whoever shows no token is the public. */
export const callerOf = (request: Request): Caller => {
  const said = request.headers.get('authorization');
  if (said === null) return { audience: 'public' };
  const caller = TOKENS.get(said.replace(/^Bearer /, ''));
  if (caller !== undefined) return caller;
  throw new Problem(401, {
    detail: 'There is no such token. The demo has demo-agent and demo-office.',
    headers: { 'www-authenticate': 'Bearer' },
  });
};
