import { editionPlace, standardFormats } from '@gribo/http';
import {
  type ContractTaken,
  clientSource,
  contractOf,
  type JsonSchema,
  jsonSchema,
  memoryStore,
  type OpenApiOptions,
  openApi,
  typesSource,
} from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import { dump } from 'js-yaml';
import type { GriboConfig } from '../config/config.js';
import { samplesOf } from '../config/samples-of.js';
import { fileName, jsonText, MADE_BY, type Output, type Part } from './output.js';
import { suffixOf, variants } from './variants.js';

/** A body or an input, as the library's functions take it from its plan alone. */
type Described = Parameters<typeof jsonSchema>[0];

/** What the document says of its edition: which it is, until when, and how it is asked for. */
const editionTold = ({
  api,
  editions,
  openApi: said = {},
}: GriboConfig): Pick<OpenApiOptions, 'info' | 'servers'> => {
  const { edition } = api.plan;
  if (edition === null) return {};
  const { name, deprecated } = edition;
  const place = editionPlace(editions);
  const how = {
    path: 'It is the first part of all paths.',
    header: `It is named in the header \`${place.name}\`.`,
    mediaType: `It is named with media types: \`application/json;${place.name}=${name}\`.`,
  }[place.by];
  const sunset = deprecated?.sunset ?? null;
  const words = [
    said.info?.['description'],
    `Edition ${name}. ${how}`,
    sunset === null ? undefined : `It is answered until the end of ${sunset}.`,
  ];
  const description = words.filter((word) => word !== undefined).join('\n\n');
  const { servers = [{ url: '/' }] } = said;
  return {
    info: { ...said.info, description },
    ...(place.by === 'path' ? { servers: servers.map((server) => inPath(server, name)) } : {}),
  };
};

const inPath = (server: JsonSchema, edition: string): JsonSchema => ({
  ...server,
  url: `${String(server['url']).replace(/\/$/, '')}/${edition}`,
});

const openApiOutputs = (config: GriboConfig): readonly Output[] => {
  const rows = samplesOf(config);
  const document = openApi(config.api, {
    formats: config.formats ?? standardFormats,
    ...(rows === null || config.model === undefined ? {} : { examples: memoryStore(config.model, rows) }),
    ...config.openApi,
    ...editionTold(config),
  });
  return [
    { path: 'openapi.json', text: jsonText(document) },
    // Nothing is written twice by reference: the text is to be read by people too.
    { path: 'openapi.yaml', text: dump(document, { noRefs: true, lineWidth: 110 }) },
  ];
};

const requestSchemas = (
  { name, takes, takesMany }: EndpointPlan,
  taken: readonly ContractTaken[],
): readonly Output[] => {
  if (takes === null) return [];
  const plan = takesMany ? { kind: 'list', shape: takes } : takes;
  return taken.map(({ audiences }) => {
    const [audience = null] = audiences;
    const schema = jsonSchema({ plan } as unknown as Described, { audience });
    const suffix = taken.length === 1 ? '' : `.${suffixOf(audiences)}`;
    const path = `schemas/${fileName(name + suffix)}.request.json`;
    return { path, text: jsonText({ $comment: MADE_BY, ...schema }) };
  });
};

const schemaOutputs = (config: GriboConfig): readonly Output[] => [
  ...variants(config).map(({ name, endpoint, situation }) => {
    const schema = jsonSchema({ plan: endpoint.returns } as Described, situation);
    return { path: `schemas/${name}.response.json`, text: jsonText({ $comment: MADE_BY, ...schema }) };
  }),
  ...config.api.plan.endpoints.flatMap((endpoint, i) =>
    requestSchemas(endpoint, contractOf(config.api).endpoints[i]?.takes ?? []),
  ),
];

/** What a part of a build writes, the serializers apart: they have to be bundled. */
export const outputsOf = (part: Exclude<Part, 'serializers'>, config: GriboConfig): readonly Output[] => {
  const contract = contractOf(config.api);
  switch (part) {
    case 'openapi':
      return openApiOutputs(config);
    case 'schemas':
      return schemaOutputs(config);
    case 'types':
      return [{ path: 'types.d.ts', text: `// ${MADE_BY}\n\n${typesSource(contract)}` }];
    case 'client':
      return [{ path: 'client.ts', text: `// ${MADE_BY}\n${clientSource(contract)}` }];
    case 'contract':
      return [{ path: 'contract.json', text: jsonText(contract) }];
    default:
      return part satisfies never;
  }
};
