import { plainJson } from './plain-json.js';
import type { Screen } from './screen.js';

/** Prints what `--json` asks for. Each command says what that is by a type of its own, of which its schema is made. */
export const printJson = <Told>(screen: Screen, told: NoInfer<Told>): void =>
  screen.print(JSON.stringify(told, plainJson, 2));
