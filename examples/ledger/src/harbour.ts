/** A page of port calls, as far as the ledger reads it. */
export interface Page {
  readonly items: readonly {
    readonly id: string;
    readonly vessel: { readonly id: number; readonly name: string };
  }[];
}

export interface PortCall {
  readonly status: string;
  readonly dues: number;
}

export interface Vessel {
  readonly enteredOn: string;
}

/**
 * Asks the first edition of the harbour's API.
 *
 * @param address where the API is
 * @throws an Error with what the API says is wrong
 */
export const harbourAt =
  (address: string, token: string) =>
  async <T>(path: string): Promise<T> => {
    const response = await fetch(`${address}/2025-11${path}`, {
      headers: { authorization: `Bearer ${token}` },
    });
    const body: unknown = await response.json();
    if (!response.ok) throw new Error((body as { readonly detail: string }).detail);
    return body as T;
  };
