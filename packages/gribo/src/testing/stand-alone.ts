import { expect } from 'chai';
import * as runtime from '../runtime.js';

/** The library's own modules that stand-alone serializers import, by the file's name. */
const conversion = (file: string): Promise<object> => import(`../declare/conversions/${file}.js`);

/** A stand-alone module, run here: its imports are handed over. */
export const standAlone = async (
  source: string,
  functions: Readonly<Record<string, unknown>>,
): Promise<runtime.StandAlone> => {
  const files = [...source.matchAll(/from"gribo\/conversions\/([\w-]+)";/g)].map(([, file]) => file ?? '');
  const conversions = Object.fromEntries(
    await Promise.all(files.map(async (file) => [file, await conversion(file)])),
  );
  const body = source
    .replace(/import\{([^}]*)\}from"gribo\/runtime";/, 'const{$1}=runtime;')
    .replaceAll(
      /import\{apply as (\w+)\}from"gribo\/conversions\/([\w-]+)";/g,
      'const $1=conversions["$2"].apply;',
    )
    .replaceAll(/import\{(\w+) as (\w+)\}from"functions";/g, 'const $2=functions["$1"];')
    .replace('export const{object,json,bytes,stream}=', 'return ');
  expect(body).not.to.match(/^(?:im|ex)port/m);
  return new Function('runtime', 'conversions', 'functions', `"use strict";\n${body}`)(
    runtime,
    conversions,
    functions,
  ) as runtime.StandAlone;
};
