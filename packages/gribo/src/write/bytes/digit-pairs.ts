/** The two ASCII digits of 0 to 99 as a little-endian pair: `7` is "07". */
export const PAIRS: Uint16Array = Uint16Array.from(
  { length: 100 },
  (_, value) => (48 + Math.floor(value / 10)) | ((48 + (value % 10)) << 8),
);
