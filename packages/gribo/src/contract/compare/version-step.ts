import type { Effect } from './contract-change.js';

/** Which part of a version (Semantic Versioning 2.0.0) a change is for. */
export type VersionStep = 'major' | 'minor';

type Version = readonly [number, number, number];

const parsed = (version: string): Version | null => {
  const [, major, minor, patch] = /^(\d+)\.(\d+)\.(\d+)(?:[-+].*)?$/.exec(version) ?? [];
  return patch === undefined ? null : [Number(major), Number(minor), Number(patch)];
};

/** The step that effects ask for; null where nothing changed. What came anew is a minor step. */
export const stepFor = (effects: readonly Effect[]): VersionStep | null => {
  if (effects.length === 0) return null;
  return effects.includes('breaking') ? 'major' : 'minor';
};

/** The version after a step; null where it is no such version. Before 1.0.0 all steps are minor ones. */
export const steppedVersion = (version: string, step: VersionStep | null): string | null => {
  const known = parsed(version);
  if (known === null || step === null) return known === null ? null : version;
  const [major, minor] = known;
  return step === 'major' && major > 0 ? `${major + 1}.0.0` : `${major}.${minor + 1}.0`;
};

/** Whether a version is the wanted one or a later one. */
export const isAtLeast = (version: string, wanted: string): boolean => {
  const [is, least] = [parsed(version), parsed(wanted)];
  if (is === null || least === null) return false;
  const at = is.findIndex((part, i) => part !== least[i]);
  return at === -1 || (is[at] ?? 0) > (least[at] ?? 0);
};
