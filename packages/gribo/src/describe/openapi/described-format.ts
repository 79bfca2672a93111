/** A format as descriptions know it; the formats of `@gribo/http` are such objects. */
export interface DescribedFormat {
  readonly name: string;
  /** The media types that stand for it; the first one is sent. */
  readonly mediaTypes: readonly string[];
  /** More media types that it reads. */
  readonly alsoReads?: readonly string[];
  /** Whether it can only hold lists of rows. */
  readonly onlyLists?: boolean;
  /** Whether groups and to-one rows are dotted names in it. */
  readonly isFlat?: boolean;
  /** There where it can be sent. */
  readonly write?: unknown;
  /** There where it can be read. */
  readonly read?: unknown;
  /** There where lists of rows can be read. */
  readonly readRows?: unknown;
}

/** JSON alone (RFC 8259), with merge patches (RFC 7396). */
export const JSON_ONLY: readonly DescribedFormat[] = [
  {
    name: 'json',
    mediaTypes: ['application/json'],
    alsoReads: ['application/merge-patch+json'],
    write: true,
    read: true,
    readRows: true,
  },
];
