import { Problem } from '@gribo/http';
import type { harbour } from './api.js';

type Audience = (typeof harbour.audiences)[number];

/** Made-up tokens of the demo; a real application asks whoever keeps them. */
const TOKENS: Readonly<Record<string, Audience>> = {
  'demo-agent': 'agent',
  'demo-office': 'harbourMaster',
};

/** Whom a request is from: whoever shows no token is the public. */
export const audienceOf = (request: Request): Audience => {
  const said = request.headers.get('authorization');
  if (said === null) return 'public';
  const audience = TOKENS[said.replace(/^Bearer /, '')];
  if (audience !== undefined) return audience;
  throw new Problem(401, {
    detail: 'There is no such token. The demo has demo-agent and demo-office.',
    headers: { 'www-authenticate': 'Bearer' },
  });
};
