/**
 * A replacer for `JSON.stringify`, of what that has no form for: large whole numbers are texts of digits, and bytes are base64
 * (RFC 4648, section 4). It looks at what is there, and not at what that makes of itself: buffers would be lists of numbers.
 */
export function plainJson(this: Readonly<Record<string, unknown>>, name: string, value: unknown): unknown {
  const there = this[name];
  if (there instanceof Uint8Array) return Buffer.from(there).toString('base64');
  return typeof value === 'bigint' ? String(value) : value;
}
