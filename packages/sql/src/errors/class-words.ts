/**
 * What classes of failures mean, in our words: a driver's own may quote a value. By an SQLSTATE (ISO 9075-2, section 24) or what it starts
 * with; the longest that fits is taken.
 */
const BY_STATE: Readonly<Record<string, string>> = {
  '0A': 'the database cannot do this',
  '08': 'the connection failed',
  '21': 'one value was expected, and more came',
  '22': 'a value does not fit where it is used',
  '23': 'a constraint was broken',
  '25': 'the transaction is in another state',
  '25006': 'the transaction only reads',
  '25P03': 'the transaction did nothing for too long',
  '28': 'the database did not let it in',
  '3D': 'there is no such database',
  '3F': 'there is no such schema',
  '40': 'it was in the way of another transaction',
  '40P01': 'it was in a deadlock with another transaction',
  '42': 'the statement is not valid here',
  '42501': 'a right is missing',
  '42601': 'the statement cannot be parsed',
  '42703': 'there is no such column',
  '42883': 'there is no such function or operator',
  '42P01': 'there is no such table',
  '44': 'a view does not take the row',
  '45': 'a trigger or a function turned it down',
  '53': 'there is no room',
  '53100': 'the disk is full',
  '53300': 'there are too many connections',
  '54': 'it is more than the database takes',
  '55': 'something is not in the state that it needs',
  '55P03': 'a lock could not be had in time',
  '57': 'somebody ended it',
  '57014': 'it was cancelled, or took too long',
  '57P': 'the server is going or coming',
  '58': 'the system under the database failed',
  P0: 'a trigger or a function turned it down',
  XX: 'the database itself failed',
};

/** Codes of the system and of drivers, where the database was not reached. */
const BY_CODE: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'nothing listens at its address',
  ECONNRESET: 'the connection was cut',
  EHOSTUNREACH: 'there is no way to its address',
  ENOTFOUND: 'the name of its host is not known',
  EAI_AGAIN: 'the name of its host could not be looked up',
  EPIPE: 'the connection was cut',
  ETIMEDOUT: 'it did not answer in time',
};

/** MySQL's own numbers, by the SQLSTATE that says what they mean: most of them have none. */
const STATES: Readonly<Record<number, string>> = {
  1020: '40',
  1021: '53100',
  1040: '53300',
  1041: '53',
  1044: '28',
  1045: '28',
  1047: '57P',
  1049: '3D',
  1053: '57P',
  1054: '42703',
  1064: '42601',
  1079: '57P',
  1114: '53',
  1142: '42501',
  1143: '42501',
  1146: '42P01',
  1152: '08',
  1158: '08',
  1159: '08',
  1160: '08',
  1161: '08',
  1203: '53300',
  1205: '55P03',
  1213: '40P01',
  1226: '54',
  1227: '42501',
  1290: '25006',
  1305: '42883',
  1317: '57014',
  1370: '42501',
  1614: '40',
  1644: '45',
  1792: '25006',
  1836: '25006',
  1927: '08',
  1969: '57014',
  2002: '08',
  2003: '08',
  2006: '08',
  2013: '08',
  3024: '57014',
  4031: '25P03',
};

/** SQLite's codes, by what they start with. */
const OF_SQLITE: Readonly<Record<string, string>> = {
  SQLITE_AUTH: 'a right is missing',
  SQLITE_BUSY: 'somebody else was writing',
  SQLITE_CANTOPEN: 'its file cannot be opened',
  SQLITE_CONSTRAINT: 'a constraint was broken',
  SQLITE_CONSTRAINT_TRIGGER: 'a trigger or a function turned it down',
  SQLITE_CORRUPT: 'its file is damaged',
  SQLITE_ERROR: 'the statement is not valid here',
  SQLITE_FULL: 'the disk is full',
  SQLITE_INTERRUPT: 'it was cancelled',
  SQLITE_IOERR: 'the disk failed',
  SQLITE_LOCKED: 'somebody else was writing',
  SQLITE_MISMATCH: 'a value does not fit where it is used',
  SQLITE_NOTADB: 'its file is no database',
  SQLITE_READONLY: 'its file may only be read',
  SQLITE_TOOBIG: 'it is more than the database takes',
};

/** What stands under the longest of the names that a code starts with. */
const byStart = (words: Readonly<Record<string, string>>, code: string): string | undefined => {
  const [longest] = Object.keys(words)
    .filter((start) => code.startsWith(start))
    .sort((one, other) => other.length - one.length);
  return longest === undefined ? undefined : words[longest];
};

/** An SQLSTATE has five of these. */
const IS_STATE = /^[0-9A-Z]{5}$/;

/** The code of a failure as its database gives it. */
export interface FailureCode {
  /** An SQLSTATE, or the name of a code; empty where there is none. */
  readonly state: string;
  /** MySQL's number; left out elsewhere. */
  readonly errno?: number;
  /** Its SQLSTATE, where `state` is another name of it. */
  readonly standard?: string | undefined;
}

/** What a failure's class means, in a few words. */
export const classWords = ({ state, errno, standard = state }: FailureCode): string => {
  const known = errno === undefined ? undefined : STATES[errno];
  if (known !== undefined) return byStart(BY_STATE, known) ?? known;
  const sqlite = byStart(OF_SQLITE, state);
  if (sqlite !== undefined) return standard === state ? sqlite : (byStart(BY_STATE, standard) ?? sqlite);
  const system = BY_CODE[state];
  if (system !== undefined) return system;
  if (state.startsWith('PROTOCOL_') || state.startsWith('POOL_')) return 'the connection failed';
  if (!IS_STATE.test(standard)) return 'the driver of the database failed';
  return byStart(BY_STATE, standard) ?? 'the database turned it down';
};
