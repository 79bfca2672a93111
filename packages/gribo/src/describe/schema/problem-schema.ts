import type { JsonSchema } from '../kinds.js';

/** Problem details (RFC 9457), with what is wrong with each member or parameter. */
export const PROBLEM_SCHEMA: JsonSchema = {
  type: 'object',
  description: 'What went wrong (RFC 9457).',
  properties: {
    type: { type: 'string', format: 'uri-reference', default: 'about:blank' },
    title: { type: 'string' },
    status: { type: 'integer', minimum: 400, maximum: 599 },
    detail: { type: 'string', description: 'What is wrong in this case, in a sentence.' },
    code: { type: 'string', description: 'Tells a problem of an endpoint’s own apart.' },
    instance: { type: 'string', format: 'uri-reference' },
    errors: {
      type: 'array',
      description: 'Every single thing that is wrong.',
      items: {
        type: 'object',
        properties: {
          pointer: { type: 'string', description: 'The member of the body, as a JSON Pointer (RFC 6901).' },
          parameter: { type: 'string', description: 'The parameter of the query.' },
          code: { type: 'string', description: 'What kind of thing it is: `required`, `range`, …' },
          wanted: { type: 'string', description: 'The kind of value that is wanted there.' },
          limits: { type: 'object', description: 'Its limits, by name: `min`, `max`, `pattern`, …' },
          near: {
            type: 'array',
            items: { type: 'string' },
            description: 'The names of members that are nearly like the one that came.',
          },
          reason: {
            type: 'object',
            description: 'Why the body cannot be read, or the change not be stored.',
          },
          line: {
            type: 'integer',
            description: 'The line of the body, from 1, where it has one for each row.',
          },
          value: { type: 'string' },
          message: { type: 'string' },
        },
        required: ['code', 'message'],
      },
    },
  },
  required: ['title', 'status'],
};
