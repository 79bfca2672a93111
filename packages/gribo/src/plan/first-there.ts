/** The first value that is not null: what `orElse` computes. Stand-alone serializers import it from the runtime. */
export const firstThere = (...values: unknown[]): unknown => values.find((value) => value !== null) ?? null;
