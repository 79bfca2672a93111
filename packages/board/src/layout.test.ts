import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describeLayout } from '../../gribo/src/testing/layout.js';

describeLayout(
  'the board',
  dirname(fileURLToPath(import.meta.url)),
  { state: [], parts: ['state'], views: ['parts', 'state'], top: ['views', 'parts', 'state'] },
  ['gribo', '@gribo/cli', 'react', 'react-dom', '@mantine/core', 'highlight.js'],
);
