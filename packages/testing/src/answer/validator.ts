import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import type { JsonSchema } from 'gribo';

/** The function, whichever way a loader hands out the package. */
const add = (addFormats as unknown as { default?: unknown }).default ?? addFormats;

/** A validator of JSON Schema (draft 2020-12) that tells all that is wrong. */
export const validatorOf = (schema: JsonSchema): ValidateFunction => {
  const ajv = new Ajv2020({ allErrors: true, strict: false, ownProperties: true });
  (add as (to: Ajv2020) => void)(ajv);
  return ajv.compile(schema);
};
