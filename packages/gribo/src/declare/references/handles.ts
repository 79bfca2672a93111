/** A kind of objects to hand out: nothing shows on them, and only their own kind sees what stands behind one. */
export interface Handles<Behind> {
  /** Hands it to the user under the type that the compiler sees, which exists for the compiler only. */
  handOut<Seen>(behind: Behind): Seen;
  /** What stands behind one of these; null for anything else. */
  behind(value: unknown): Behind | null;
}

/** Makes a kind of handles. */
export const handles = <Behind extends object>(): Handles<Behind> => {
  class Handle {
    readonly #behind: Behind;

    constructor(behind: Behind) {
      this.#behind = behind;
      Object.freeze(this);
    }

    static behind(value: unknown): Behind | null {
      return typeof value === 'object' && value !== null && #behind in value ? value.#behind : null;
    }
  }
  return {
    handOut: <Seen>(behind: Behind) => new Handle(behind) as unknown as Seen,
    behind: Handle.behind,
  };
};
