import type { Drift } from '@gribo/sql';
import { type Review, type ReviewFinding, review, type Severity, type Store } from 'gribo';
import type { GriboConfig } from '../config/config.js';
import { publishedFindings } from '../publish/published.js';
import { findingWords } from '../review/finding-words.js';
import { reviewOptions } from '../review/review-options.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import { withProgress } from '../screen/progress.js';
import type { Screen } from '../screen/screen.js';
import { anywhereFindings } from './anywhere-finding.js';
import { declarationsOf } from './declarations.js';
import { driftFinding } from './drift-finding.js';
import { endedFindings } from './ended-finding.js';
import { sarif } from './sarif.js';

/** What `gribo check --json` prints. */
export type CheckJson = Review;

export interface CheckOptions {
  readonly json?: boolean;
  readonly sarif?: boolean;
  /** False: the store is not opened. */
  readonly drift?: boolean;
}

/** A store that can say where its model and its database do not agree. */
type Comparing = Store & { drift(): Promise<readonly Drift[]> };

const canCompare = (store: Store): store is Comparing =>
  'drift' in store && typeof store.drift === 'function';

/** Where the model and the database do not agree; null where nothing could be compared. */
const driftOf = async (openStore: () => Promise<Store>): Promise<readonly ReviewFinding[] | null> => {
  const store = await openStore();
  return canCompare(store)
    ? (await withProgress('Comparing with the database', () => store.drift())).map(driftFinding)
    : null;
};

const paintOf = (screen: Screen): Readonly<Record<Severity, (text: string) => string>> => ({
  error: screen.colours.red,
  warning: screen.colours.yellow,
  note: screen.colours.cyan,
});

/** Text in lines of at most so many letters, after an indent. */
const wrapped = (text: string, width: number, indent: string): string => {
  const lines: string[] = [''];
  for (const word of text.split(' ')) {
    const line = lines.at(-1) ?? '';
    if (line !== '' && line.length + word.length + 1 > width - indent.length) lines.push(word);
    else lines[lines.length - 1] = line === '' ? word : `${line} ${word}`;
  }
  return lines.map((line) => indent + line).join('\n');
};

/** Findings that say and advise the same, under one heading. */
const grouped = (findings: readonly ReviewFinding[]): readonly (readonly ReviewFinding[])[] => {
  const groups = new Map<string, ReviewFinding[]>();
  for (const finding of findings) {
    const { severity, code, advice } = finding;
    const key = JSON.stringify([severity, code, advice]);
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()];
};

const printFindings = (findings: readonly ReviewFinding[], screen: Screen): void => {
  const { colours } = screen;
  const paint = paintOf(screen);
  for (const group of grouped(findings)) {
    const [first] = group;
    if (first === undefined) continue;
    screen.print(`${paint[first.severity](first.severity)}  ${colours.bold(first.code)}`);
    const widest = Math.min(40, Math.max(...group.map(({ place }) => place.length)));
    for (const { place, message } of group) {
      const beside = screen.width - widest - 4;
      const [line = '', ...more] = wrapped(message, beside, '').split('\n');
      screen.print(`  ${place.padEnd(widest)}  ${line}`);
      for (const rest of more) screen.print(' '.repeat(widest + 4) + rest);
    }
    screen.print(colours.dim(wrapped(`→ ${first.advice}`, screen.width, '  ')));
    screen.print('');
  }
};

const summary = ({ findings, accepted }: Review): string =>
  `${findingWords(findings)}; ${accepted.length} accepted`;

/**
 * Prints what is risky, undecided or drifted.
 *
 * @throws {Mistake} with exit code 1 where there are errors or warnings
 */
export const check = async (
  config: GriboConfig,
  configPath: string,
  openStore: () => Promise<Store>,
  options: CheckOptions,
  screen: Screen,
): Promise<void> => {
  // What is declared is looked at while the store opens.
  const [drift, published, ended] = await Promise.all([
    options.drift === false ? [] : driftOf(openStore),
    publishedFindings(config, configPath),
    endedFindings(config, configPath),
  ]);
  const more = [...(drift ?? []), ...published, ...ended, ...anywhereFindings(config)];
  const found = review(config.api, { ...reviewOptions(config), more });
  if (options.json === true) printJson<CheckJson>(screen, found);
  else if (options.sarif === true) {
    screen.print(JSON.stringify(sarif(found, await declarationsOf(configPath)), null, 2));
  } else {
    printFindings(found.findings, screen);
    if (drift === null)
      screen.print(screen.colours.dim('The store has no database to compare the model with.'));
    screen.print(summary(found));
  }
  const wanting = found.findings.filter(({ severity }) => severity !== 'note').length;
  if (wanting > 0)
    throw new Mistake('Mend them, or accept them in the configuration with the reason why.', 1);
};
