import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import type { JsonSchema } from 'gribo';

const validators = new WeakMap<JsonSchema, ValidateFunction>();

/** The function, whichever way a loader hands out the package. */
const add = (addFormats as unknown as { default?: unknown }).default ?? addFormats;

const validatorOf = (schema: JsonSchema): ValidateFunction => {
  const known = validators.get(schema);
  if (known !== undefined) return known;
  const ajv = new Ajv2020({ allErrors: true, strict: false, ownProperties: true });
  (add as (to: Ajv2020) => void)(ajv);
  const made = ajv.compile(schema);
  validators.set(schema, made);
  return made;
};

/** What a JSON Schema (draft 2020-12) finds wrong with a value; empty where it is right. */
export const wrongsIn = (schema: JsonSchema, value: unknown): readonly ErrorObject[] => {
  const validate = validatorOf(schema);
  return validate(value) ? [] : (validate.errors ?? []);
};
