/** How many digits a whole number below 2^31 has. */
const digitsOf = (value: number): number => {
  if (value < 100) return value < 10 ? 1 : 2;
  if (value < 10000) return value < 1000 ? 3 : 4;
  if (value < 1000000) return value < 100000 ? 5 : 6;
  if (value < 100000000) return value < 10000000 ? 7 : 8;
  return value < 1000000000 ? 9 : 10;
};

/** Writes a whole number below 2^31 in so many digits, with zeros before it where it has fewer. */
const writeDigits = (target: Uint8Array, value: number, digits: number, position: number): number => {
  let rest = value;
  let p = position + digits;
  while (p > position) {
    const tenth = (rest / 10) | 0;
    target[--p] = 48 + rest - tenth * 10;
    rest = tenth;
  }
  return position + digits;
};

/**
 * Numbers with up to six digits after the point, such as measures and coordinates. Where
 * `whole / scale` is the very number, these digits are what JavaScript prints: no shorter ones
 * lead back to it. Returns -1 for all others.
 */
const writeFraction = (target: Uint8Array, value: number, position: number): number => {
  let scale = 10;
  for (let places = 1; places <= 6; places++) {
    const whole = value * scale;
    if (whole > 2147483647) return -1;
    if (whole === (whole | 0) && whole / scale === value) {
      // Rounding skipped the shorter form: 8.78982 × 100,000 is not quite whole.
      if (whole % 10 === 0) return -1;
      const before = (whole / scale) | 0;
      const point = writeDigits(target, before, digitsOf(before), position);
      target[point] = 46;
      return writeDigits(target, whole - before * scale, places, point + 1);
    }
    scale *= 10;
  }
  return -1;
};

/** Writes a finite number as JSON does; `-0` is written as `0`. */
export const writeNumber = (target: Uint8Array, value: number, position: number): number => {
  if (value < 0) {
    target[position] = 45;
    return writeNumber(target, -value, position + 1);
  }
  if (value === (value | 0)) return writeDigits(target, value, digitsOf(value), position);
  const end = writeFraction(target, value, position);
  if (end !== -1) return end;
  const text = `${value}`;
  for (let i = 0; i < text.length; i++) target[position + i] = text.charCodeAt(i);
  return position + text.length;
};
