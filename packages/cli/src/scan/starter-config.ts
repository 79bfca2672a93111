/** Whether an address has a password in it, which is not written into a file. */
export const hasPassword = (url: string): boolean =>
  /^[a-z]+:\/\/[^/@:]*:[^/@]+@/i.test(url) || /[?&]password=/i.test(url);

/** The configuration that joins the model, the API and the database. */
export const starterConfig = (url: string): string => {
  const address = hasPassword(url)
    ? "process.env['DATABASE_URL'] ?? ''"
    : `process.env['DATABASE_URL'] ?? ${JSON.stringify(url)}`;
  return [
    "import type { GriboConfig } from '@gribo/cli';",
    "import { office } from './gribo/api.js';",
    "import { db } from './gribo/model.js';",
    '',
    'export default {',
    '  api: office,',
    '  model: db,',
    '  names: { db },',
    '  // Drivers are loaded by the commands that open the store, and by no other.',
    '  store: async () => {',
    "    const { openDatabase, sqlStore } = await import('@gribo/sql');",
    `    return sqlStore(db, await openDatabase(${address}));`,
    '  },',
    '} satisfies GriboConfig;',
    '',
  ].join('\n');
};
