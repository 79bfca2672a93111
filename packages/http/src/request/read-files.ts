import { parse } from 'content-type';
import { type Issue, type IssueCode, pointerPart, type ReadResult, reader } from 'gribo';
import { bareIssue, type EndpointPlan, type FilePlan, type InputPlan, nearest, spoken } from 'gribo/kit';
import { flatMembers } from '../formats/flat-members.js';
import { MalformedBody } from '../formats/format.js';
import { gathered } from '../formats/gathered.js';
import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import type { Settings } from '../settings/settings.js';
import { chunksOf } from './chunks-of.js';
import type { Form, FormPart } from './form-reading.js';
import { checkWhole, issueOf, refused } from './read-body.js';
import { tooLarge } from './too-large.js';

/** A file that came in. It is read once. */
export interface TakenFile {
  /** What it is called where it comes from, without a path; null where nothing is said. */
  readonly name: string | null;
  readonly type: string;
  /** All of its bytes. @throws {Problem} 413, 408, 400 where they do not arrive as they should */
  bytes(): Promise<Uint8Array>;
  /** Its bytes part by part, as they come. @throws the same */
  stream(): AsyncIterable<Uint8Array>;
}

/** Files by their names; null where one that may be left out was. */
export type TakenFiles = Readonly<Record<string, TakenFile | null>>;

/** What came with files. */
export interface FilesRead {
  readonly files: TakenFiles;
  readonly change: object | null;
}

const typeOf = (asked: Asked): string | null => {
  try {
    return parse(asked.header('content-type') ?? '').type.toLowerCase();
  } catch {
    return null;
  }
};

const FORM = 'multipart/form-data';

const unsupported = (files: readonly FilePlan[], isForm: boolean): Problem => {
  const types = isForm ? [FORM] : [...(files[0]?.types ?? ['*/*']), FORM];
  return new Problem(415, {
    detail: `Bodies of this Content-Type are not read. There are: ${types.join(', ')}.`,
    headers: { accept: types.join(', ') },
  });
};

const takes = ({ types }: FilePlan, type: string): boolean => types === null || types.includes(type);

/** A file that is read once, however often all of it is asked for. */
export const fileOfStream = (
  file: Pick<TakenFile, 'name' | 'type'>,
  stream: () => AsyncIterable<Uint8Array>,
): TakenFile => {
  let all: Promise<Uint8Array> | null = null;
  const bytes = (): Promise<Uint8Array> => {
    all ??= gathered(stream());
    return all;
  };
  return { ...file, stream, bytes };
};

/** A body that is a file itself: it is read while the handler reads it. */
const bodyAsFile = (asked: Asked, file: FilePlan, type: string, settings: Settings): TakenFile => {
  const { max } = file;
  if (Number(asked.header('content-length') ?? 0) > max)
    throw tooLarge(`A file may have at most ${max} bytes.`);
  const { receiving, body } = settings.limits;
  const stream = (): AsyncIterable<Uint8Array> => chunksOf(asked, { most: max, receiving, each: body });
  return fileOfStream({ name: null, type }, stream);
};

/** Only the last part of a path: what it is called, and not where it is from. */
const bareName = (filename: string | null): string | null => {
  const name = filename?.split(/[/\\]/).at(-1) ?? '';
  return name === '' || name === '.' || name === '..' ? null : name.slice(0, 255);
};

const fileOfPart = ({ filename, type, bytes }: FormPart): TakenFile => ({
  name: bareName(filename),
  type,
  bytes: async () => bytes,
  async *stream() {
    yield bytes;
  },
});

/** What is wrong with the files of a form, by their names. */
const fileIssues = (form: Form, files: readonly FilePlan[], { say }: Settings): readonly Issue[] => {
  const issue = (name: string, code: IssueCode, more: object = {}): Issue =>
    spoken(bareIssue(pointerPart(name), code, more), say);
  const known = files.map(({ name }) => name);
  const seen = new Set<string>();
  const came = form.files.flatMap(({ name, type }): Issue[] => {
    const file = files.find((one) => one.name === name);
    if (file === undefined) return [issue(name, 'unknown', { near: nearest(name, known) })];
    if (seen.has(name)) return [issue(name, 'syntax', { reason: { name: 'twice' } })];
    seen.add(name);
    if (takes(file, type)) return [];
    return [
      issue(name, 'choice', {
        wanted: 'oneOf',
        limits: { choices: file.types ?? [] },
        came: { kind: 'text', text: JSON.stringify(type) },
      }),
    ];
  });
  const missing = files
    .filter(({ name, optional }) => !optional && !form.files.some((part) => part.name === name))
    .map(({ name }) => issue(name, 'required'));
  return [...came, ...missing];
};

/** What is told with the files. */
const told = (form: Form, plan: InputPlan | null, settings: Settings): ReadResult<object> => {
  const { policies, say, limits } = settings;
  if (plan === null) {
    const names = [...form.fields.keys()];
    if (names.length === 0) return { ok: true, value: {} };
    return { ok: false, issues: names.map((name) => spoken(bareIssue(pointerPart(name), 'unknown'), say)) };
  }
  const read = reader({ plan }, { ...policies, say, bytes: limits.body, text: 'lax' });
  try {
    const cells = new Map<string, string | null>(form.fields);
    return read.object(flatMembers(read.plan, cells, { limits: read.limits, emptyIsNull: true }));
  } catch (error) {
    if (!(error instanceof MalformedBody)) throw error;
    return { ok: false, issues: [spoken(issueOf(error, read.limits), say)] };
  }
};

/**
 * Reads what comes with files: a form, or one file that is the body itself.
 *
 * @param plan what is told besides, as it is for this audience; null: nothing
 * @throws {Problem} 400, 408, 413, 415, 422
 */
export const readFiles = async (
  asked: Asked,
  { files }: EndpointPlan,
  plan: InputPlan | null,
  settings: Settings,
): Promise<FilesRead> => {
  checkWhole(asked);
  const type = typeOf(asked);
  const [only, ...others] = files;
  const isBody = only !== undefined && others.length === 0 && plan === null;
  if (isBody && type !== FORM) {
    if (type === null || !takes(only, type)) throw unsupported(files, false);
    return { files: { [only.name]: bodyAsFile(asked, only, type, settings) }, change: null };
  }
  if (type !== FORM) throw unsupported(files, true);
  // Its parser is Node's: it is loaded where a form comes, and where none does, other runtimes need not have it.
  const { FormReading } = await import('./form-reading.js');
  const form = await new FormReading(files, settings).read(asked);
  const read = told(form, plan, settings);
  const issues = [...(read.ok ? [] : read.issues), ...fileIssues(form, files, settings)];
  if (issues.length > 0 || !read.ok) throw refused(issues);
  const parts = new Map(form.files.map((part) => [part.name, fileOfPart(part)]));
  return {
    files: Object.fromEntries(files.map(({ name }) => [name, parts.get(name) ?? null])),
    change: plan === null ? null : read.value,
  };
};
