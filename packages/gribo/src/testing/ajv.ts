import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';

/** A strict validator of JSON Schema (draft 2020-12), with its formats. */
export const ajvOf = (): Ajv2020 => {
  const ajv = new Ajv2020({ strict: true, strictTypes: false, allowUnionTypes: true, ownProperties: true });
  // Both ways of importing it, whatever the loader makes of the package.
  const add = (addFormats as unknown as { default?: typeof addFormats.default }).default ?? addFormats;
  (add as unknown as (to: Ajv2020) => void)(ajv);
  return ajv;
};
