import { sayAudiences } from '../../plan/say-audience.js';
import type {
  ContractCondition,
  ContractEndpoint,
  ContractFile,
  ContractParameter,
  ContractProblem,
  ContractRows,
  ContractSort,
} from '../contract.js';
import { noticeChange } from './body-changes.js';
import { type ContractChange, changeOf } from './contract-change.js';
import { valueChanges } from './value-changes.js';

const routeOf = ({ method, path }: ContractEndpoint): string => `${method} ${path}`;

const routeChanges = (before: ContractEndpoint, after: ContractEndpoint): readonly ContractChange[] => {
  const renamed =
    before.name === after.name
      ? []
      : [
          changeOf(
            'endpoint-renamed',
            'risky',
            '',
            `It is called ${after.name}; it was called ${before.name}.`,
          ),
        ];
  if (routeOf(before) === routeOf(after)) return renamed;
  const message = `It is at ${routeOf(after)}; it was at ${routeOf(before)}.`;
  return [...renamed, changeOf('route-changed', 'breaking', '', message)];
};

const audienceChanges = (before: ContractEndpoint, after: ContractEndpoint): readonly ContractChange[] => {
  const [was, is] = [before.audiences, after.audiences];
  if (is === undefined) {
    return was === undefined ? [] : [changeOf('audience-added', 'safe', '', 'It answers everybody now.')];
  }
  if (was === undefined) {
    return [changeOf('audience-removed', 'breaking', '', `It answers ${is.join(', ')} only.`)];
  }
  return [
    ...was
      .filter((name) => !is.includes(name))
      .map((name) => changeOf('audience-removed', 'breaking', '', `It does not answer ${name} any more.`)),
    ...is
      .filter((name) => !was.includes(name))
      .map((name) => changeOf('audience-added', 'safe', '', `It answers ${name} now.`)),
  ];
};

/** For whom a parameter is there, in words. */
const whomWords = (audiences: ForWhom['audiences']): string =>
  audiences === undefined ? 'for everybody' : `for ${sayAudiences(audiences)}`;

interface ForWhom {
  readonly audiences?: readonly (string | null)[];
}

/** What changed about those for whom a parameter is there. */
export const whomChanges = (
  path: string,
  what: string,
  { audiences: before }: ForWhom,
  { audiences: after }: ForWhom,
): readonly ContractChange[] => {
  const isSame = before?.join('\n') === after?.join('\n');
  if (isSame) return [];
  const isLost = after !== undefined && (before === undefined || before.some((one) => !after.includes(one)));
  const message = `${what} is there ${whomWords(after)}; it was ${whomWords(before)}.`;
  return [changeOf('parameter-changed', isLost ? 'breaking' : 'safe', path, message)];
};

const named = (names: readonly string[]): readonly ContractSort[] => names.map((name) => ({ name }));

/** Names that a caller may send in a parameter, such as columns to sort by. */
const nameChanges = (
  parameter: string,
  before: readonly ContractSort[],
  after: readonly ContractSort[],
): readonly ContractChange[] => {
  const gone = before
    .filter(({ name }) => !after.some((one) => one.name === name))
    .map(({ name }) =>
      changeOf('parameter-removed', 'breaking', parameter, `It does not take "${name}" any more.`),
    );
  const rest = after.flatMap((one): readonly ContractChange[] => {
    const was = before.find(({ name }) => name === one.name);
    return was === undefined
      ? [changeOf('parameter-added', 'safe', parameter, `It takes "${one.name}" now.`)]
      : whomChanges(parameter, `"${one.name}"`, was, one);
  });
  return [...gone, ...rest];
};

const rowWords = (condition: ContractCondition | undefined): string =>
  condition === undefined ? 'all of them' : condition.says;

/** Rows that audiences see or change by another rule than before. */
export const rowChanges = (
  before: Omit<ContractRows, 'audiences'>,
  after: Omit<ContractRows, 'audiences'>,
): readonly ContractChange[] =>
  (['see', 'change'] as const).flatMap((kind) => {
    const [was, is] = [rowWords(before[kind]), rowWords(after[kind])];
    if (was === is) return [];
    const verb = kind === 'see' ? 'seen' : 'changed';
    // Who sees and changes more is not hurt by it.
    const effect = after[kind] === undefined ? 'safe' : 'risky';
    return [changeOf('rows-changed', effect, '', `Rows that may be ${verb}: ${is}; it was: ${was}.`)];
  });

/** Problems of an endpoint's own: one that is new is met by clients that do not know it. */
export const problemChanges = (
  before: readonly ContractProblem[],
  after: readonly ContractProblem[],
): readonly ContractChange[] => {
  const gone = before
    .filter(({ code }) => !after.some((one) => one.code === code))
    .map(({ code }) => changeOf('problem-removed', 'safe', code, 'It is not answered any more.'));
  const rest = after.flatMap(({ code, status, type }): readonly ContractChange[] => {
    const was = before.find((one) => one.code === code);
    if (was === undefined)
      return [changeOf('problem-added', 'risky', code, `It is new, with status ${status}.`)];
    const message = `It has status ${status} now; it had ${was.status}.`;
    return [
      ...(was.status === status ? [] : [changeOf('problem-changed', 'breaking', code, message)]),
      ...(was.type === type
        ? []
        : [changeOf('problem-changed', 'breaking', code, `Its type is ${type ?? 'about:blank'} now.`)]),
    ];
  });
  return [...gone, ...rest];
};

const filterChanges = (
  before: readonly ContractParameter[],
  after: readonly ContractParameter[],
): readonly ContractChange[] => {
  const gone = before
    .filter(({ name }) => !after.some((filter) => filter.name === name))
    .map(({ name }) => changeOf('parameter-removed', 'breaking', name, 'There is no such filter any more.'));
  const rest = after.flatMap((filter): readonly ContractChange[] => {
    const was = before.find(({ name }) => name === filter.name);
    if (was === undefined) return [changeOf('parameter-added', 'safe', filter.name, 'It is a new filter.')];
    if (was.compares === filter.compares)
      return [...parameterChanges(was, filter), ...whomChanges(filter.name, 'The filter', was, filter)];
    const message = `It compares by ${filter.compares}; it compared by ${was.compares}.`;
    return [changeOf('parameter-changed', 'breaking', filter.name, message)];
  });
  return [...gone, ...rest];
};

/** Limits of what is looked for do not matter: nothing is found, and nothing is refused. */
const parameterChanges = (before: ContractParameter, after: ContractParameter): readonly ContractChange[] => {
  const isLimit = ({ code }: ContractChange): boolean =>
    code.startsWith('limit-') || code === 'pattern-changed';
  return valueChanges(before.type, after.type, after.name, 'request')
    .filter((one) => !isLimit(one))
    .map((one) => ({ ...one, code: 'parameter-changed' }));
};

const pathChanges = (before: ContractEndpoint, after: ContractEndpoint): readonly ContractChange[] =>
  after.parameters.flatMap((parameter) => {
    const was = before.parameters.find(({ name }) => name === parameter.name);
    return was === undefined ? [] : parameterChanges(was, parameter);
  });

const pageChanges = (
  { page: before }: ContractEndpoint,
  { page: after }: ContractEndpoint,
): readonly ContractChange[] => {
  // Pages that came or went are told by their members.
  if (before === undefined || after === undefined) return [];
  if (before.by !== after.by) {
    const message = `Pages are asked for by ${after.by}; they were by ${before.by}.`;
    return [changeOf('page-changed', 'breaking', 'page', message)];
  }
  const size = `A page has ${after.size} rows where nothing is said; it had ${before.size}.`;
  const max = `A page has at most ${after.max} rows; it had ${before.max}.`;
  return [
    ...(before.size === after.size ? [] : [changeOf('page-changed', 'risky', 'size', size)]),
    ...(before.max === after.max
      ? []
      : [changeOf('page-changed', after.max < before.max ? 'breaking' : 'safe', 'size', max)]),
  ];
};

const bodyChanges = (before: ContractEndpoint, after: ContractEndpoint): readonly ContractChange[] => {
  const changes: ContractChange[] = [];
  if (before.takes === undefined && after.takes !== undefined) {
    changes.push(changeOf('body-added', 'breaking', 'request', 'It takes a body now.'));
  }
  if (before.takes !== undefined && after.takes === undefined) {
    changes.push(changeOf('body-removed', 'risky', 'request', 'It takes no body any more.'));
  }
  if (
    before.takes !== undefined &&
    after.takes !== undefined &&
    (before.takesMany ?? false) !== (after.takesMany ?? false)
  ) {
    const message = after.takesMany === true ? 'It takes a list now.' : 'It takes an object now, no list.';
    changes.push(changeOf('body-changed', 'breaking', 'request', message));
  }
  if (before.returns === undefined && after.returns !== undefined) {
    changes.push(changeOf('body-added', 'safe', 'response', 'It sends a body now.'));
  }
  if (before.returns !== undefined && after.returns === undefined) {
    changes.push(changeOf('body-removed', 'breaking', 'response', 'It sends no body any more.'));
  }
  if (
    before.returns !== undefined &&
    after.returns !== undefined &&
    before.returns.many !== after.returns.many
  ) {
    const message = after.returns.many ? 'It sends a list now.' : 'It sends an object now, no list.';
    changes.push(changeOf('body-changed', 'breaking', 'response', message));
  }
  return changes;
};

/** An endpoint that sends a file now, or none any more. */
const sentFileChanges = (before: ContractEndpoint, after: ContractEndpoint): readonly ContractChange[] => {
  const [was, is] = [before.file !== undefined, after.file !== undefined];
  if (was === is) return [];
  const message = is ? 'It sends a file now.' : 'It sends no file any more.';
  return [changeOf('body-changed', 'breaking', 'response', message)];
};

const typesWords = (types: readonly string[] | undefined): string => types?.join(', ') ?? 'any';

/** Files that are taken: those that took more are not hurt by it. */
const fileChanges = (
  before: readonly ContractFile[],
  after: readonly ContractFile[],
): readonly ContractChange[] => {
  const gone = before
    .filter(({ name }) => !after.some((one) => one.name === name))
    .map(({ name }) => changeOf('member-removed', 'breaking', name, 'There is no such file any more.'));
  const rest = after.flatMap((file): readonly ContractChange[] => {
    const { name, optional, max, types } = file;
    const was = before.find((one) => one.name === name);
    if (was === undefined)
      return optional === true
        ? [changeOf('member-added', 'safe', name, 'It is a new file, and may be left out.')]
        : [changeOf('member-added', 'breaking', name, 'It is a new file, and required.')];
    const isNarrower = types !== undefined && (was.types ?? ['any']).some((type) => !types.includes(type));
    const size = `It has at most ${max} bytes; it had ${was.max}.`;
    const words = `It is of ${typesWords(types)}; it was of ${typesWords(was.types)}.`;
    return [
      ...(max < was.max ? [changeOf('limit-tightened', 'breaking', name, size)] : []),
      ...(max > was.max ? [changeOf('limit-loosened', 'safe', name, size)] : []),
      ...(typesWords(types) === typesWords(was.types)
        ? []
        : [changeOf('type-changed', isNarrower ? 'breaking' : 'safe', name, words)]),
      ...(was.optional === true && optional !== true
        ? [changeOf('presence-tightened', 'breaking', name, 'It is required now.')]
        : []),
    ];
  });
  return [...gone, ...rest];
};

/** What changed about an endpoint, its bodies' members apart. */
export const endpointChanges = (
  before: ContractEndpoint,
  after: ContractEndpoint,
): readonly ContractChange[] => [
  ...routeChanges(before, after),
  ...audienceChanges(before, after),
  ...noticeChange('endpoint-deprecated', '', before.deprecated, after.deprecated),
  ...pathChanges(before, after),
  ...filterChanges(before.filters, after.filters),
  ...nameChanges('sort', before.sort, after.sort),
  ...nameChanges('with', named(before.asks), named(after.asks)),
  ...pageChanges(before, after),
  ...bodyChanges(before, after),
  ...fileChanges(before.files ?? [], after.files ?? []),
  ...sentFileChanges(before, after),
];
