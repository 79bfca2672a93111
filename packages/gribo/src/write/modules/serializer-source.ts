import type { AnyBody } from '../../declare/types/shape-types.js';
import type { SituationFor } from '../../declare/types/situation-types.js';
import type { Situation } from '../../plan/situation.js';
import { resolve } from '../../resolve/resolve.js';
import { type FunctionModules, moduleSource } from './module-source.js';

/**
 * The source of an ES module that writes a body without the library: `object`, `json`, `bytes` and
 * `stream`, byte for byte as those of its writer. It imports helpers from `gribo/runtime`, to be
 * bundled, and the functions of your own that members call. It runs where generated code is forbidden.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped
 * @param situation as for `writer`
 * @param functions your modules by the path that they are imported from: what `derive`, `holds` and
 * `via` call has to be exported by one of them
 * @returns JavaScript
 * @throws {DeclarationError} `DECLARATION` listing the members whose functions no module exports
 * @throws {RequestError} `REQUEST`, as for `writer`
 * @example
 * serializerSource(VesselCard).includes('gribo/runtime') // => true
 */
export const serializerSource = <
  B extends AnyBody,
  const A extends string | null,
  const E extends string,
  const N extends string,
  const P extends string,
>(
  body: B,
  situation: SituationFor<B, A, E, N, P> = {},
  functions: FunctionModules = {},
): string => moduleSource(resolve(body, situation as Situation), functions);
