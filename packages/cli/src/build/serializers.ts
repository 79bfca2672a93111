import { join, relative, resolve, sep } from 'node:path';
import { contractOf, DeclarationError, type Finding, type FunctionModules, serializerSource } from 'gribo';
import { typeNames } from 'gribo/kit';
import { planned } from '../asked/planned.js';
import type { GriboConfig } from '../config/config.js';
import { bundle, type LooseModule } from './bundle.js';
import { MADE_BY, type Output } from './output.js';
import { askedVariants, type Variant, variants } from './variants.js';

const FOLDER = 'serializers';

/** What was built, and the members whose functions no module exports. */
export interface Serializers {
  readonly outputs: readonly Output[];
  readonly findings: readonly Finding[];
}

/** The user's modules by the paths that serializers import them from. */
const relocated = (functions: FunctionModules, home: string, out: string): FunctionModules =>
  Object.fromEntries(
    Object.entries(functions).map(([path, module]) => {
      if (!path.startsWith('.')) return [path, module];
      const from = relative(join(out, FOLDER), resolve(home, path)).split(sep).join('/');
      return [from.startsWith('.') ? from : `./${from}`, module];
    }),
  );

const declarationOf = ({ shape, many }: Variant, names: ReadonlyMap<string, string>): string => {
  const type = names.get(shape) ?? 'never';
  const sent = many ? `readonly ${type}[]` : type;
  const rows = 'Iterable<object> | ArrayLike<object>';
  return `// ${MADE_BY}
import type { ${type} } from '../types.js';
/** The plain JSON-ready value of ${many ? 'rows' : 'a row, or what an envelope is written from'}. */
export declare const object: (data: ${many ? rows : 'object'}) => ${sent};
/** The same as JSON text. */
export declare const json: (data: ${many ? rows : 'object'}) => string;
/** The same as JSON in UTF-8. */
export declare const bytes: (data: ${many ? rows : 'object'}) => Uint8Array;
/** The same in chunks${many ? ', while rows are read' : ''}. */
export declare const stream: (data: ${many ? `${rows} | AsyncIterable<object>` : 'object'}) => ReadableStream<Uint8Array>;
`;
};

/** The modules that write each body without the library. */
export const serializers = async (config: GriboConfig, home: string, out: string): Promise<Serializers> => {
  const functions = relocated(config.functions ?? {}, home, out);
  const names = typeNames(contractOf(config.api));
  const findings = new Map<string, Finding>();
  const modules: LooseModule[] = [];
  const declarations: Output[] = [];
  for (const variant of variants(config).flatMap(askedVariants)) {
    try {
      const body = planned(variant.endpoint.returns);
      modules.push({
        path: `${FOLDER}/${variant.name}.js`,
        source: serializerSource(body, variant.situation, functions),
      });
      declarations.push({ path: `${FOLDER}/${variant.name}.d.ts`, text: declarationOf(variant, names) });
    } catch (error) {
      if (!(error instanceof DeclarationError)) throw error;
      for (const finding of error.findings) findings.set(finding.path, finding);
    }
  }
  const made = await bundle(modules);
  return { outputs: [...made, ...declarations], findings: [...findings.values()] };
};
