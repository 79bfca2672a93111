import type { Weight } from 'gribo';
import { fit, type Screen } from '../screen/screen.js';

const BAR = 24;

/** A bar as long as its share, in eighths of a letter. */
const bar = (share: number): string => {
  const eighths = Math.round(share * BAR * 8);
  const rest = eighths % 8;
  return '█'.repeat(Math.floor(eighths / 8)) + (rest === 0 ? '' : String.fromCharCode(0x2590 - rest));
};

/** A member with how deep it is. */
interface Flat {
  readonly weight: Weight;
  readonly depth: number;
}

/** The members of a weight, the heaviest first. */
const flat = (weight: Weight, depth: number): readonly Flat[] => {
  const members = [...weight.members].sort((a, b) => b.bytes - a.bytes);
  return members.flatMap((member) =>
    // The items of a list are told by their members.
    member.name === '[]' ? flat(member, depth) : [{ weight: member, depth }, ...flat(member, depth + 1)],
  );
};

/** What each member of a response weighs: its bytes, and a bar for its share of the whole. */
export const weighLines = (whole: Weight, screen: Screen): readonly string[] => {
  const { colours } = screen;
  const all = flat(whole, 0);
  const names = all.map(({ weight, depth }) => '  '.repeat(depth) + weight.name);
  const widest = Math.min(40, Math.max(6, ...names.map((name) => name.length))) + 2;
  return all.map(({ weight, depth }, i) => {
    const share = whole.bytes === 0 ? 0 : weight.bytes / whole.bytes;
    const name = fit(names[i] ?? '', widest);
    const bytes = weight.bytes.toLocaleString('en').padStart(9);
    const part = `${Math.round(share * 100)} %`.padStart(6);
    const times = `${weight.count}×`.padStart(6);
    const painted = depth === 0 ? colours.cyan(bar(share)) : colours.dim(bar(share));
    return `${depth === 0 ? colours.bold(name) : name}${bytes}${part}${colours.dim(times)}  ${painted}`.trimEnd();
  });
};
