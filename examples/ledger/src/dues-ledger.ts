import { harbourAt, type Page, type PortCall, type Vessel } from './harbour.js';

/**
 * A line for each call of a page: whose it is, since when its vessel is known, and what is due; and how many pilots there are.
 *
 * @param address where the harbour's API is
 */
export const duesLedger = async (address: string, token: string): Promise<readonly string[]> => {
  const ask = harbourAt(address, token);
  const { items } = await ask<Page>('/port-calls?size=5&sort=eta');
  const pilots = await ask<readonly unknown[]>('/pilots');
  const lines = await Promise.all(
    items.map(async ({ id, vessel }) => {
      const [{ dues, status }, { enteredOn }] = await Promise.all([
        ask<PortCall>(`/port-calls/${encodeURIComponent(id)}`),
        ask<Vessel>(`/vessels/${vessel.id}`),
      ]);
      return `${vessel.name} (known since ${enteredOn}), ${status}: ${dues.toFixed(2)}`;
    }),
  );
  return [...lines, `${pilots.length} pilots`];
};
