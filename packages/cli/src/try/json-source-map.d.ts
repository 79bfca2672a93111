declare module 'json-source-map' {
  /** A place in a JSON text: its line from 0. */
  interface Place {
    readonly line: number;
    readonly column: number;
    readonly pos: number;
  }
  /** A value with the place of its name, where it is a member, and of the value itself. */
  interface Located {
    readonly key?: Place;
    readonly value: Place;
  }
  export const parse: (text: string) => {
    readonly data: unknown;
    readonly pointers: Readonly<Record<string, Located>>;
  };
}
