import type { FilePlan } from '../../plan/api-plan.js';
import type { Given, Value } from './member-types.js';
import type { ShapeOf } from './shape-types.js';

/** A value of a file, maybe under a condition. */
type FilePart<T, W> = Value<T, W> | Given<unknown, Value<T, W>>;

/** What a file is made from. */
export interface FileMembers {
  /** Its bytes: a column of `bytes()`; where it is null, there is no such file (404). */
  readonly bytes: FilePart<Uint8Array | null, string | null>;
  /** Its media type: a column or `constant('image/png')`. Left out: `application/octet-stream`. */
  readonly type?: FilePart<string | null, string | null>;
  /** What it is called where it is kept: a column or a constant. */
  readonly name?: FilePart<string | null, string | null>;
}

/** The bytes of a column as a body. */
export interface FileBody<M = unknown, K = unknown> extends ShapeOf<FileMembers, M, K> {
  readonly sends: 'file';
}

/** A file that an endpoint takes, before the endpoint names it. */
export interface FileTaken<Optional extends boolean = boolean> {
  readonly file: Omit<FilePlan, 'name'>;
  /** Carries the type; there is nothing at run time. */
  readonly optional?: Optional;
}
