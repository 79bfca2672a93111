import type { Operation } from '../plan/api-plan.js';
import type { ColumnType } from '../plan/column-type.js';
import type { FilterOperator, JsonValue } from '../plan/condition.js';
import type { DeprecationNotice } from '../plan/declared.js';

/** The layout of contracts that this version writes and reads. */
export const CONTRACT_LAYOUT = 'gribo-contract-2';

/** A limit as JSON has it: patterns by their source; big whole numbers as text, for they may be larger than a JSON number. */
type JsonLimit<L> = L extends RegExp | bigint ? string : L extends ColumnType ? JsonForm<L> : L;

/** The limits of a type that there always are, and those that there may be. */
type SureLimits<T> = { readonly [N in keyof T as null extends T[N] ? never : N]: JsonLimit<T[N]> };
type OpenLimits<T> = {
  readonly [N in keyof T as null extends T[N] ? N : never]?: JsonLimit<NonNullable<T[N]>>;
};

/** A column's type as JSON has it: a limit that is not there is left out. */
type JsonForm<T> = T extends ColumnType ? SureLimits<T> & OpenLimits<T> : never;

/** What a single value is, with its limits; a limit that is not there is left out. */
export type ContractValue = JsonForm<ColumnType>;

/** What a member is; `M` are the members of its groups. */
export type ContractType<M> =
  | ContractValue
  | { readonly kind: 'constant'; readonly value: JsonValue }
  | { readonly kind: 'group'; readonly members: readonly M[] }
  /** An object of this shape, or what this input takes. */
  | { readonly kind: 'object'; readonly of: string }
  | {
      readonly kind: 'list';
      readonly of: string;
      readonly limit?: number;
      /** The least rows that are taken. */
      readonly least?: number;
      /** Which of the rows are in it; left out: all of them. */
      readonly where?: ContractCondition;
    };

/** What members of shapes and of inputs have in common. */
interface AnyMember<M> {
  readonly name: string;
  readonly type: ContractType<M>;
  readonly nullable?: true;
  readonly about?: string;
  /** As JSON shows it. */
  readonly example?: JsonValue;
}

/** What has to hold, in words with the names of columns, links and facts. */
export interface ContractCondition {
  readonly says: string;
  /** Documents do not tell it: it is code, or about a sealed column. */
  readonly untold?: true;
}

/** A member of a response. */
export interface ContractMember extends AnyMember<ContractMember> {
  /** Left out: always there. `some`: for some rows only. `asked`: only where one of `asks` is asked for. */
  readonly when?: 'some' | 'asked';
  /** For which rows it is there, where that is more than that it is not null. */
  readonly where?: ContractCondition;
  /** The names whose asking makes a difference to it. */
  readonly asks?: readonly string[];
  readonly deprecated?: DeprecationNotice;
}

/** A member of a request. */
export interface ContractInputMember extends AnyMember<ContractInputMember> {
  /** Left out: it has to be there. */
  readonly when?: 'optional' | 'preset';
  /** What stands in for it where it is left out. */
  readonly preset?: JsonValue;
}

/** A shape as some audiences see it at some endpoints. */
export interface ContractShape {
  /** The entity whose rows it shows; null for what is put around a body. */
  readonly entity: string | null;
  readonly about?: string;
  readonly members: readonly ContractMember[];
}

/** What a request body may hold. */
export interface ContractInput {
  /** The entity whose rows it makes or changes; null for values that stand in no table. */
  readonly entity: string | null;
  readonly about?: string;
  /** A merge patch (RFC 7396): what is absent stays unchanged, null clears. */
  readonly amends?: true;
  /** Members that are set once, when the row is created. */
  readonly fixed?: readonly string[];
  readonly members: readonly ContractInputMember[];
}

/** A parameter of the path, or one that filters a list. */
export interface ContractParameter {
  readonly name: string;
  readonly type: ContractValue;
  /** How a filter compares; left out for parameters of the path. */
  readonly compares?: FilterOperator;
  /** For whom it is there; left out: for everybody whom the endpoint answers. */
  readonly audiences?: readonly (string | null)[];
}

/** What a query is told besides what it looks for. */
export interface ContractQueryMember extends Omit<ContractInputMember, 'type'> {
  readonly type: ContractValue;
  /** For whom it is there; left out: for everybody whom the endpoint answers. */
  readonly audiences?: readonly (string | null)[];
}

/** A problem of an endpoint's own. */
export interface ContractProblem {
  readonly code: string;
  readonly status: number;
  readonly title: string;
  readonly type?: string;
  readonly about?: string;
  /** What else its details have. */
  readonly members?: readonly ContractInputMember[];
}

/** A file that is taken. */
export interface ContractFile {
  readonly name: string;
  /** The media types that it may be of; left out: any. */
  readonly types?: readonly string[];
  /** The most bytes. */
  readonly max: number;
  readonly optional?: true;
  readonly about?: string;
}

/** Something that a caller may sort by. */
export interface ContractSort {
  readonly name: string;
  /** Who may; left out: everybody whom the endpoint answers. */
  readonly audiences?: readonly (string | null)[];
}

/** Which rows some audiences see and change by a row rule; what is left out holds for all rows. */
export interface ContractRows {
  readonly audiences: readonly (string | null)[];
  readonly see?: ContractCondition;
  readonly change?: ContractCondition;
}

/** What an endpoint sends to some audiences; null among them: to callers of no audience. */
export interface ContractVariant {
  readonly audiences: readonly (string | null)[];
  readonly shape: string;
}

/** What an endpoint takes of some audiences; null among them: of callers of no audience. */
export interface ContractTaken {
  readonly audiences: readonly (string | null)[];
  /** The name of the input. */
  readonly input: string;
}

/** One endpoint as its callers know it. */
export interface ContractEndpoint {
  readonly name: string;
  readonly method: string;
  readonly path: string;
  readonly operation?: Operation;
  /** Left out: it is about none. */
  readonly entity?: string;
  readonly about?: string;
  /** The audiences it answers; left out: everybody. */
  readonly audiences?: readonly string[];
  readonly deprecated?: DeprecationNotice;
  /** The parameters of the path, in order. */
  readonly parameters: readonly ContractParameter[];
  readonly filters: readonly ContractParameter[];
  /** What its query is told besides; left out: nothing. */
  readonly query?: readonly ContractQueryMember[];
  /** The problems of its own; left out: none. */
  readonly problems?: readonly ContractProblem[];
  /** The columns that a caller may sort by. */
  readonly sort: readonly ContractSort[];
  /** The names to ask for with `?with=`. */
  readonly asks: readonly string[];
  readonly page?: { readonly by: 'number' | 'cursor'; readonly size: number; readonly max: number };
  /** Which rows a row rule leaves to whom: those that are seen, and where it changes rows, those too that are changed. */
  readonly rows?: readonly ContractRows[];
  /** The row rule in a sentence, for those whose change it refuses. */
  readonly rule?: string;
  /** What it takes of whom. */
  readonly takes?: readonly ContractTaken[];
  /** It takes an array, or a line for each row. */
  readonly takesMany?: true;
  /** The files that it takes: alone the body itself, else parts of a form. */
  readonly files?: readonly ContractFile[];
  /** It sends a file, of one of these media types where they are known, and no body that is described. */
  readonly file?: { readonly types?: readonly string[] };
  readonly returns?: { readonly many: boolean; readonly variants: readonly ContractVariant[] };
}

/** An API as its callers know it: every endpoint, resolved for every audience. Plain JSON. */
export interface Contract {
  readonly layout: typeof CONTRACT_LAYOUT;
  readonly title: string;
  readonly version: string;
  /** The edition that it is of; left out: the API has none. */
  readonly edition?: string;
  readonly audiences: readonly string[];
  readonly endpoints: readonly ContractEndpoint[];
  readonly shapes: Readonly<Record<string, ContractShape>>;
  readonly inputs: Readonly<Record<string, ContractInput>>;
}
