/** What is told of a file instead of its bytes. */
export interface FileShown {
  /** How many bytes it has; null: there is none. */
  readonly bytes: number | null;
  readonly type: string;
  readonly name: string | null;
}

/** What the shape of a file makes of a row. */
interface FileMade {
  readonly bytes?: string | null;
  readonly type?: string | null;
  readonly name?: string | null;
}

/** A file by what its shape makes of a row. */
export const fileShown = (made: unknown): FileShown => {
  const { bytes = null, type, name = null } = made as FileMade;
  return {
    bytes: bytes === null ? null : Buffer.from(bytes, 'base64').length,
    type: type ?? 'application/octet-stream',
    name,
  };
};

/** A file in a sentence. */
export const fileWords = ({ bytes, type, name }: FileShown): string => {
  if (bytes === null) return 'There is no such file: 404.';
  return `A file of ${bytes.toLocaleString('en')} bytes, ${type}${name === null ? '' : `, called ${name}`}.`;
};
