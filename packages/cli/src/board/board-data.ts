import { existsSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { standardFormats } from '@gribo/http';
import {
  type Contract,
  type ContractComparison,
  type ContractEndpoint,
  type ContractFile,
  type ContractTaken,
  compare,
  contractOf,
  type Flow,
  lineage,
  type Review,
  review,
} from 'gribo';
import { contentShape, type EntityPlan, memberTable, rowTable, type TableLine } from 'gribo/kit';
import { type EditionNaming, editionFolder, editionNames, editionNaming } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { readContract } from '../diff/read-contract.js';
import { reviewOptions } from '../review/review-options.js';
import { everybodys, type RowWords, rowWords } from '../table/row-words.js';

/** An endpoint as the board lists it. */
export interface BoardEndpoint {
  readonly name: string;
  readonly method: string;
  readonly path: string;
  readonly about: string | null;
  /** The entity whose rows it sends; null where it sends none. */
  readonly sends: string | null;
  /** Its inputs in the contract, by audience; null where it takes none. */
  readonly takes: readonly ContractTaken[] | null;
  /** Whether it takes a list. */
  readonly takesMany: boolean;
  /** Those whom it answers; null: everybody. */
  readonly audiences: readonly string[] | null;
  readonly asks: readonly string[];
  /** The files that it takes. */
  readonly files: readonly ContractFile[];
  /** What its query may be, as an example; null where nothing needs to be said. */
  readonly query: string | null;
}

/** A fact about callers that the API declares. */
export interface BoardFact {
  readonly name: string;
  readonly kind: string;
  readonly nullable: boolean;
}

/** An entity with what is known of its columns. */
export interface BoardEntity {
  readonly name: string;
  readonly columns: readonly {
    readonly name: string;
    readonly kind: string;
    readonly sealed: string | null;
  }[];
}

/** An entity of the model, as drafts are made of it. */
export interface BoardModelEntity extends BoardEntity {
  readonly links: readonly {
    readonly name: string;
    readonly target: string;
    readonly isMany: boolean;
  }[];
  /** The columns that no body sets: the database makes them, or each change stamps them. */
  readonly made: readonly string[];
}

/** Members by endpoints, as one audience sees them. */
export interface BoardTable {
  readonly audience: string | null;
  readonly lines: readonly TableLine[];
}

/** A comparison with the contract that the last build wrote. */
export interface BoardComparison extends ContractComparison {
  readonly before: string;
}

/** The edition that the board shows, and how a request names it. */
export interface BoardEdition extends EditionNaming {
  readonly name: string;
  /** All that there are, oldest first. */
  readonly all: readonly string[];
}

/** Everything the board shows that does not depend on rows. */
export interface BoardData {
  readonly title: string;
  readonly version: string;
  readonly audiences: readonly string[];
  /** Null: the API has none. */
  readonly edition: BoardEdition | null;
  /** Callers that the configuration names, to ask as one of them: in a copy there are none. */
  readonly callers: readonly { readonly name: string; readonly audience: string | null }[];
  /** What may be said of a caller: in a copy nothing is asked. */
  readonly facts: readonly BoardFact[];
  /** Which rows callers see and change, by row rules. */
  readonly rows: readonly RowWords[];
  /** The entities whose rows no rule is about. */
  readonly everybodys: readonly string[];
  readonly formats: readonly {
    readonly name: string;
    readonly mediaType: string;
    readonly onlyLists: boolean;
  }[];
  /** False for a copy that is handed around: nothing can be sent. */
  readonly isLive: boolean;
  readonly endpoints: readonly BoardEndpoint[];
  readonly entities: readonly BoardEntity[];
  /** The whole model; none where the configuration names none, or nothing can be drafted. */
  readonly model: readonly BoardModelEntity[];
  /** Whether declarations were saved since the server began: responses may be put beside those before. */
  readonly hasBefore: boolean;
  /** Members by endpoints: by entity, then for each audience; null stands for callers of none. */
  readonly tables: Readonly<Record<string, readonly BoardTable[]>>;
  readonly flows: readonly Flow[];
  readonly review: Review;
  readonly contract: Contract;
  readonly comparison: BoardComparison | null;
}

const boardEntity = ({ name, columns }: EntityPlan): BoardEntity => ({
  name,
  columns: columns.map((column) => ({ name: column.name, kind: column.type.kind, sealed: column.sealed })),
});

const modelOf = ({ model = {} }: GriboConfig): readonly BoardModelEntity[] =>
  Object.values(model).map(({ entity, links }) => ({
    ...boardEntity(entity),
    links: [...links.values()].map(({ name, target, kind }) => ({
      name,
      target: target.name,
      isMany: kind === 'toMany',
    })),
    made: entity.columns
      .filter(({ generated, stamped }) => generated || stamped !== null)
      .map(({ name }) => name),
  }));

const tablesOf = ({ api }: GriboConfig, entities: readonly string[]): BoardData['tables'] => {
  const { endpoints, audiences } = api.plan;
  const tableOf = (entity: string): readonly BoardTable[] => {
    const about = endpoints.filter(
      ({ returns }) => returns !== null && contentShape(returns).entity.name === entity,
    );
    return [null, ...audiences].map((audience) => ({
      audience,
      lines: memberTable(api.plan, about, [audience]),
    }));
  };
  return Object.fromEntries(entities.map((entity) => [entity, tableOf(entity)]));
};

/** The comparison with the contract that the last build wrote; null where there is none. */
const comparisonOf = (
  config: GriboConfig,
  configPath: string,
  contract: Contract,
  editions: readonly string[],
): BoardComparison | null => {
  const { edition } = config.api.plan;
  const folder = edition === null ? '' : editionFolder(edition.name, editions);
  const path = resolve(dirname(configPath), config.out ?? 'generated', folder, 'contract.json');
  if (!existsSync(path)) return null;
  const before = readContract(path);
  return { before: before.version, ...compare(before, contract) };
};

/** What may stand in an endpoint's query, by its first parameters. */
const queryExample = (endpoint: ContractEndpoint | undefined): string | null => {
  const { query = [], page, sort = [] } = endpoint ?? {};
  const told = query.map(({ name, preset }) => `${name}=${preset === false ? true : (preset ?? '…')}`);
  const [order] = sort;
  const parts = [
    ...told,
    ...(page === undefined ? [] : ['size=5']),
    ...(order ? [`sort=${order.name}`] : []),
  ];
  return parts.length === 0 ? null : parts.join('&');
};

const editionOf = (config: GriboConfig, all: readonly string[]): BoardEdition | null => {
  const { edition } = config.api.plan;
  return edition === null ? null : { name: edition.name, all, ...editionNaming(config) };
};

/** What the board shows of an API. */
export const boardData = (
  config: GriboConfig,
  configPath: string,
  isLive: boolean,
  hasBefore = false,
  editions: readonly string[] = editionNames(config),
): BoardData => {
  const { api } = config;
  const { title, version, audiences, endpoints } = api.plan;
  const contract = contractOf(api);
  const sending = endpoints.flatMap(({ returns }) =>
    returns === null ? [] : [contentShape(returns).entity],
  );
  const entities = [...new Map(sending.map((entity) => [entity.name, entity])).values()];
  return {
    title,
    version,
    audiences,
    edition: editionOf(config, editions),
    callers: isLive
      ? Object.entries(config.callers ?? {}).map(([name, { audience = null }]) => ({ name, audience }))
      : [],
    facts: isLive
      ? api.plan.caller.map(({ name, type, nullable }) => ({ name, kind: type.kind, nullable }))
      : [],
    rows: rowWords(rowTable(api)),
    everybodys: everybodys(rowTable(api)),
    isLive,
    formats: (config.formats ?? standardFormats)
      .filter(({ write }) => write !== undefined)
      .map(({ name, mediaTypes, onlyLists }) => ({
        name,
        mediaType: mediaTypes[0] ?? name,
        onlyLists: onlyLists === true,
      })),
    endpoints: endpoints.map(({ name, method, path, about, audiences: answered, returns }, i) => ({
      name,
      method,
      path,
      about,
      audiences: answered,
      sends: returns === null ? null : contentShape(returns).entity.name,
      takes: contract.endpoints[i]?.takes ?? null,
      takesMany: contract.endpoints[i]?.takesMany === true,
      asks: contract.endpoints[i]?.asks ?? [],
      files: contract.endpoints[i]?.files ?? [],
      query: queryExample(contract.endpoints[i]),
    })),
    entities: entities.map(boardEntity),
    model: isLive ? modelOf(config) : [],
    hasBefore,
    tables: tablesOf(
      config,
      entities.map(({ name }) => name),
    ),
    flows: lineage(api),
    review: review(api, reviewOptions(config)),
    contract,
    comparison: comparisonOf(config, configPath, contract, editions),
  };
};
