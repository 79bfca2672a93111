import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout, type Rooms } from './testing/layout.js';

const LEAVES = ['util', 'errors'];
/** The types that declarations are made of: an emitter's public function names them, and calls nothing there. */
const TYPES = ['declare/types', 'declare/entity'];

/** declare → plan → resolve → emitters; what two emitters share has a room of its own. */
const ROOMS: Rooms = {
  util: [],
  errors: ['util'],
  codegen: LEAVES,
  plan: ['util'],
  // What a declaration is in one edition: an ordinary one.
  editions: ['plan', ...LEAVES],
  values: ['plan', ...LEAVES],
  resolve: ['plan', ...LEAVES],

  'declare/entity': ['plan', 'values', ...LEAVES],
  'declare/types': ['declare/entity', 'plan'],
  'declare/references': [...TYPES, 'editions', 'plan', ...LEAVES],
  'declare/conditions': ['declare/references', ...TYPES, 'editions', 'plan', 'values', ...LEAVES],
  'declare/caller': ['declare/references', ...TYPES, 'plan', ...LEAVES],
  'declare/members': ['declare/conditions', 'declare/references', ...TYPES, 'plan', 'values', ...LEAVES],
  'declare/conversions': ['declare/references', ...TYPES, 'plan', 'values', ...LEAVES],
  'declare/shape': ['declare/references', ...TYPES, 'plan', ...LEAVES],
  // An input is a Standard Schema too: asked for by that, it reads.
  'declare/input': [
    'declare/shape',
    'declare/references',
    ...TYPES,
    'read',
    'editions',
    'plan',
    'values',
    ...LEAVES,
  ],
  'declare/body': ['declare/shape', 'declare/members', 'declare/references', ...TYPES, 'plan', ...LEAVES],
  'declare/api': [
    'declare/caller',
    'declare/conditions',
    'declare/members',
    'declare/references',
    ...TYPES,
    'shown',
    'resolve',
    'editions',
    'plan',
    ...LEAVES,
  ],

  write: [...TYPES, 'resolve', 'codegen', 'values', 'plan', ...LEAVES],
  read: [...TYPES, 'resolve', 'codegen', 'values', 'plan', ...LEAVES],
  load: [...TYPES, 'resolve', 'values', 'plan', ...LEAVES],
  change: ['values', 'plan', ...LEAVES],
  store: [...TYPES, 'change', 'load', 'values', 'plan', ...LEAVES],
  shown: ['resolve', 'plan', ...LEAVES],
  rows: ['store', 'load', 'change', 'resolve', 'values', 'plan', ...LEAVES],
  contract: ['plan'],
  'contract/make': ['contract', 'resolve', 'values', 'plan', ...LEAVES],
  review: ['resolve', 'plan', ...LEAVES],
  weigh: ['write', ...TYPES, 'values', 'plan'],
  sample: ['write', 'load', 'store', 'resolve', 'values', 'plan', ...LEAVES],
  describe: [
    'contract/make',
    'contract',
    'values',
    'sample',
    'store',
    'codegen',
    'resolve',
    ...TYPES,
    'plan',
    ...LEAVES,
  ],
  'contract/compare': ['describe', 'contract', 'values', 'plan', ...LEAVES],

  top: [
    ...['declare/api', 'declare/body', 'declare/input', 'declare/shape', 'declare/conversions'],
    ...[
      'declare/caller',
      'declare/members',
      'declare/conditions',
      ...TYPES,
      'plan',
      'resolve',
      'values',
      'codegen',
    ],
    ...[
      'write',
      'read',
      'load',
      'change',
      'store',
      'rows',
      'shown',
      'contract',
      'contract/make',
      'contract/compare',
      'describe',
      'review',
      'weigh',
      'sample',
      ...LEAVES,
    ],
  ],
};

describeLayout('the core', dirname(fileURLToPath(import.meta.url)), ROOMS, []);
