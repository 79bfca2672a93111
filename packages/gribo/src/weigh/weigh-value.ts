import type { JsonValue } from '../plan/condition.js';

/** What one member weighs in a response. */
export interface Weight {
  /** The member's name; `[]` for the items of a list. */
  readonly name: string;
  /** Bytes of all its values with their names, in UTF-8, nested ones included. */
  readonly bytes: number;
  /** How many of it there are. */
  readonly count: number;
  readonly members: readonly Weight[];
}

/** A weight while it grows. */
class Growing {
  readonly name: string;
  bytes = 0;
  count = 0;
  readonly #members = new Map<string, Growing>();

  constructor(name: string) {
    this.name = name;
  }

  /** @returns the bytes of the value */
  add(value: JsonValue, nameBytes: number): number {
    const size = this.#inside(value);
    this.bytes += size + nameBytes;
    this.count++;
    return size;
  }

  weight(): Weight {
    const members = [...this.#members.values()].map((member) => member.weight());
    return { name: this.name, bytes: this.bytes, count: this.count, members };
  }

  #inside(value: JsonValue): number {
    if (isList(value)) return this.#parts(value.map((item) => ['[]', item, 0] as const));
    if (typeof value !== 'object' || value === null) return sizeOf(value);
    return this.#parts(
      Object.entries(value).map(([name, member]) => [name, member, sizeOf(name) + 1] as const),
    );
  }

  /** Two brackets, a comma between two parts, and the parts. */
  #parts(parts: readonly (readonly [string, JsonValue, number])[]): number {
    let size = 2 + Math.max(0, parts.length - 1);
    for (const [name, value, nameBytes] of parts) {
      const member = this.#members.get(name) ?? new Growing(name);
      this.#members.set(name, member);
      size += member.add(value, nameBytes) + nameBytes;
    }
    return size;
  }
}

const isList = (value: JsonValue): value is readonly JsonValue[] => Array.isArray(value);

const encoder = new TextEncoder();

const sizeOf = (value: JsonValue): number => encoder.encode(JSON.stringify(value)).length;

/** What a JSON value weighs, member by member. */
export const weighValue = (name: string, value: JsonValue): Weight => {
  const growing = new Growing(name);
  growing.add(value, 0);
  return growing.weight();
};
