import { deflateSync, inflateSync, strFromU8, strToU8 } from 'fflate';

const toText = (bytes: Uint8Array): string =>
  btoa(strFromU8(bytes, true)).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');

const toBytes = (text: string): Uint8Array =>
  strToU8(atob(text.replaceAll('-', '+').replaceAll('_', '/')), true);

/** An edit as the part of an address after its `#`. */
export const packed = (source: string): string => toText(deflateSync(strToU8(source), { level: 9 }));

/** The edit in an address; null where there is none. */
export const unpacked = (hash: string): string | null => {
  if (hash.length < 2) return null;
  try {
    return strFromU8(inflateSync(toBytes(hash.slice(1))));
  } catch {
    return null;
  }
};
