import { deflateSync, Inflate, strFromU8, strToU8 } from 'fflate';

const toText = (bytes: Uint8Array): string =>
  btoa(strFromU8(bytes, true)).replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');

const toBytes = (text: string): Uint8Array =>
  strToU8(atob(text.replaceAll('-', '+').replaceAll('_', '/')), true);

/** An edit as the part of an address after its `#`. */
export const packed = (source: string): string => toText(deflateSync(strToU8(source), { level: 9 }));

/** No edit has so many bytes; an address that is short may unpack to far more. */
const MOST = 200_000;

const inflated = (bytes: Uint8Array): Uint8Array => {
  const parts: Uint8Array[] = [];
  let size = 0;
  const inflate = new Inflate((part) => {
    size += part.length;
    if (size > MOST) throw new RangeError('the edit is too long');
    parts.push(part);
  });
  // A piece at a time, so that no more is unpacked than may be.
  for (let at = 0; at < bytes.length; at += 64)
    inflate.push(bytes.subarray(at, at + 64), at + 64 >= bytes.length);
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
};

/** The edit in an address; null where there is none. */
export const unpacked = (hash: string): string | null => {
  if (hash.length < 2) return null;
  try {
    return strFromU8(inflated(toBytes(hash.slice(1))));
  } catch {
    return null;
  }
};
