import { start } from 'node:repl';
import * as gribo from 'gribo';
import { askingAs } from '../asked/caller.js';
import { parseKey } from '../asked/parse-key.js';
import { planned } from '../asked/planned.js';
import { sendingEndpoint } from '../asked/sending.js';
import type { GriboConfig } from '../config/config.js';
import type { Screen } from '../screen/screen.js';
import { widen } from '../show/widen.js';

const GREETING = `Rows, shapes and writers at hand; names complete with Tab, Ctrl+D ends it.
  await row('vessels.read', 3)        a stored row, with the links that the endpoint needs
  await rows('vessels.list', 2)       a few of them
  await as('name').rows('vessels.list')  the same, as a caller of the configuration sees it
  writer(Shape).object(await row(…))  what a shape makes of it
  api.plan.endpoints                  the endpoints as data`;

/** Functions that fetch stored rows for the endpoint of a name, every column of them. */
const rowFunctions = (config: GriboConfig, store: gribo.Store) => {
  const planFor = (name: string) => {
    const endpoint = sendingEndpoint(config, name);
    const plan = gribo.loadPlan(planned(endpoint.returns), { endpoint: name });
    return { endpoint, plan: widen(plan, endpoint.entity) };
  };
  return {
    row: async (name: string, key: string | number | bigint) => {
      const { endpoint, plan } = planFor(name);
      return store.read(plan, parseKey(endpoint.entity, String(key)));
    },
    rows: async (name: string, limit = 3) => store.list(planFor(name).plan, { limit }),
  };
};

/**
 * A prompt with the configuration's names, the library, and stored rows at hand.
 *
 * @returns when the user ends it
 */
export const play = async (
  config: GriboConfig,
  openStore: () => Promise<gribo.Store>,
  screen: Screen,
): Promise<void> => {
  const store = await openStore();
  screen.print(GREETING);
  const prompt = start({
    prompt: 'gribo> ',
    useColors: process.stdout.isTTY === true,
    ignoreUndefined: true,
  });
  Object.assign(prompt.context, gribo, {
    api: config.api,
    ...config.names,
    ...rowFunctions(config, store),
    as: (name: string) => {
      const { caller, now } = askingAs(config, { as: name });
      return rowFunctions(config, gribo.storeFor(store, config.api, caller, now));
    },
  });
  await new Promise<void>((resolve) => {
    prompt.once('exit', resolve);
  });
};
