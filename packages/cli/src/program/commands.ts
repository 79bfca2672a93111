import { addAnswers } from '../answers/command.js';
import { addBoard } from '../board/command.js';
import { addBuild } from '../build/command.js';
import { addCheck } from '../check/command.js';
import { addDiff } from '../diff/command.js';
import { addDraft } from '../draft/command.js';
import { addFormats } from '../formats/command.js';
import { addHere } from '../here/command.js';
import { addInit } from '../init/command.js';
import { addPlay } from '../play/command.js';
import { addPublish } from '../publish/command.js';
import { addRetire } from '../retire/command.js';
import type { AddCommand } from '../running/command.js';
import { addScan } from '../scan/command.js';
import { addServe } from '../serve/command.js';
import { addShow } from '../show/command.js';
import { addTable } from '../table/command.js';
import { addTrace } from '../trace/command.js';
import { addTry } from '../try/command.js';

/** The table of commands, in the order in which help lists them: a row for each folder. */
export const COMMANDS: readonly AddCommand[] = [
  addHere,
  addInit,
  addShow,
  addTable,
  addTry,
  addDraft,
  addPlay,
  addFormats,
  addServe,
  addBoard,
  addBuild,
  addTrace,
  addCheck,
  addDiff,
  addPublish,
  addRetire,
  addScan,
  addAnswers,
];
