import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { nodeListener, Problem, serve } from '@gribo/http';
import type { EndpointPlan, Store } from 'gribo';
import type { GriboConfig } from '../config.js';
import { Mistake } from '../mistake.js';
import { sampleStore } from '../samples-of.js';
import type { Screen } from '../screen.js';
import { pickAudience } from '../situation.js';

export interface ServeOptions {
  readonly samples?: boolean;
  readonly port: number;
  readonly audience?: string;
}

const HOST = '127.0.0.1';
const HEADER = 'x-audience';

/** Whom a request is from: whom it names itself, for this is for development; else as the configuration says. */
const audienceOf =
  (config: GriboConfig, otherwise: string | undefined) =>
  (request: Request): string | null | Promise<string | null> => {
    const named = request.headers.get(HEADER);
    if (named !== null) {
      if (config.api.plan.audiences.includes(named)) return named;
      throw new Problem(400, { detail: `${HEADER} must be one of ${config.api.plan.audiences.join(', ')}.` });
    }
    return otherwise ?? config.audience?.(request) ?? null;
  };

const routeLines = (endpoints: readonly EndpointPlan[]): readonly string[] =>
  endpoints.map(({ method, path, name }) => `  ${method.padEnd(6)} ${path.padEnd(30)} ${name}`);

/** Waits until the process is asked to end. */
const untilEnded = (): Promise<void> =>
  new Promise((resolve) => {
    process.once('SIGINT', resolve);
    process.once('SIGTERM', resolve);
  });

/** Serves the API on this machine alone, on its store or on sample rows, until it is ended. */
export const serveApi = async (
  config: GriboConfig,
  openStore: () => Promise<Store>,
  options: ServeOptions,
  screen: Screen,
): Promise<void> => {
  const otherwise = pickAudience(config, options.audience);
  const store = options.samples === true ? sampleStore(config) : await openStore();
  const handle = serve(config.api, {
    store,
    audience: audienceOf(config, otherwise),
    formatParameter: true,
    ...(config.formats === undefined ? {} : { formats: config.formats }),
  });
  const server = createServer(nodeListener(handle));
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const taken = error.code === 'EADDRINUSE';
      reject(
        taken ? new Mistake(`Something is at port ${options.port} already: name another, --port.`) : error,
      );
    });
    server.listen(options.port, HOST, resolve);
  });
  const { port } = server.address() as AddressInfo;
  const { colours } = screen;
  const { title, audiences, endpoints } = config.api.plan;
  const rows = options.samples === true ? 'sample rows, in memory' : 'its store';
  screen.print(`${colours.bold(title)} answers at ${colours.cyan(`http://${HOST}:${port}`)}, on ${rows}.\n`);
  for (const line of routeLines(endpoints)) screen.print(line);
  const whom = audiences.length === 0 ? '' : ` -H '${HEADER}: ${audiences[0]}'`;
  screen.print(`\n  curl http://${HOST}:${port}${endpoints[0]?.path ?? '/'}${whom}`);
  screen.print(colours.dim('\nFor development only: callers say themselves whom they are. Ctrl+C ends it.'));
  await untilEnded();
  await new Promise<void>((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });
};
