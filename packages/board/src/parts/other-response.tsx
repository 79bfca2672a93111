import type { BesideData, BoardData } from '@gribo/cli';
import { Alert, Group, NativeSelect, SimpleGrid, Stack, Text, Title } from '@mantine/core';
import { answers } from 'gribo/kit';
import type { Source } from '../state/source.js';
import { useLoaded } from '../state/use-loaded.js';
import { usePlace } from '../state/use-place.js';
import { askApi, inEdition, laidOut, languageOf } from './ask-api.js';
import { Code } from './code.js';

/** Another response about the same row: at another endpoint, or for another audience. */
interface Other {
  readonly endpoint: string;
  readonly audience: string | null;
  readonly caller: string | null;
  readonly label: string;
  /** A format that it is written in, by its media type; left out: as JSON. */
  readonly accept?: string;
  /** Whether it is as it was before the last save. */
  readonly isBefore?: boolean;
  /** Another edition than the one that is shown. */
  readonly edition?: string;
}

interface OtherProps {
  readonly data: BoardData;
  readonly source: Source;
  readonly endpoint: string;
  readonly entity: string;
  readonly audience: string | null;
  readonly caller: string | null;
  readonly beside: BesideData;
  readonly turn: number;
}

const audienceWords = (audience: string | null): string => audience ?? 'no audience';

/** What the response can be put beside: the same endpoint for others, and other endpoints about the entity. */
const othersOf = ({ data, endpoint, entity, audience, caller, beside }: OtherProps): readonly Other[] => {
  const answersAt = (name: string, whom: string | null): boolean => {
    const audiences = data.endpoints.find((one) => one.name === name)?.audiences ?? null;
    return answers({ audiences }, whom);
  };
  const audiences = [...data.audiences, null].filter(
    (name) => (name !== audience || caller !== null) && answersAt(endpoint, name),
  );
  const callers = data.callers.filter(
    ({ name, audience: whom }) => name !== caller && answersAt(endpoint, whom),
  );
  const endpoints = data.endpoints.filter(
    ({ name, sends }) => sends === entity && name !== endpoint && answersAt(name, audience),
  );
  const isAsked = data.isLive && beside.request !== null;
  const formats = data.formats.filter(
    ({ name, onlyLists }) => isAsked && name !== 'json' && (!onlyLists || beside.isList),
  );
  return [
    ...audiences.map((name) => ({
      endpoint,
      audience: name,
      caller: null,
      label: `for ${audienceWords(name)}`,
    })),
    ...callers.map(({ name, audience: whom }) => ({
      endpoint,
      audience: whom,
      caller: name,
      label: `as ${name}`,
    })),
    ...endpoints.map(({ name }) => ({ endpoint: name, audience, caller, label: `at ${name}` })),
    ...(data.isLive ? (data.edition?.all ?? []) : [])
      .filter((name) => name !== data.edition?.name)
      .map((name) => ({ endpoint, audience, caller, label: `in ${name}`, edition: name })),
    ...(data.hasBefore
      ? [{ endpoint, audience, caller, label: 'before the last save', isBefore: true }]
      : []),
    ...formats.map(({ name, mediaType }) => ({
      endpoint,
      audience,
      caller,
      label: `in ${name}`,
      accept: mediaType,
    })),
  ];
};

/** The members that only one of two responses has. */
const onlyIn = (one: BesideData, other: BesideData): readonly string[] => {
  const known = new Set(other.sent.map(({ path }) => path));
  return one.sent.map(({ path }) => path).filter((path) => !known.has(path));
};

const Difference = ({ label, paths }: { readonly label: string; readonly paths: readonly string[] }) => (
  <Text size="sm">
    {paths.length === 0 ? `Nothing is only ${label}.` : `Only ${label}: `}
    <b>{paths.join(', ')}</b>
  </Text>
);

/** One response beside another, for the same row: what each has that the other has not, and their sizes. */
export const OtherResponse = (props: OtherProps) => {
  const { data, source, endpoint, audience, caller, beside, turn } = props;
  const [place, go] = usePlace();
  const others = othersOf(props);
  const chosen = others.find(({ label }) => label === place['other']);
  const loaded = useLoaded(JSON.stringify([chosen, beside.key, turn]), async () =>
    chosen === undefined
      ? null
      : source.beside({
          endpoint: chosen.endpoint,
          audience: chosen.audience,
          caller: chosen.caller,
          key: beside.key,
          with: [],
          isBefore: chosen.isBefore === true,
          edition: chosen.edition ?? data.edition?.name ?? '',
        }),
  );
  const written = useLoaded(
    JSON.stringify([chosen?.accept, beside.request, audience, caller, turn]),
    async () =>
      chosen?.accept === undefined || beside.request === null
        ? null
        : askApi(
            inEdition(data, { method: 'GET', path: beside.request, audience, caller, accept: chosen.accept }),
          ),
  );
  const format = written.state === 'loaded' ? written.value : null;
  const other = loaded.state === 'loaded' ? loaded.value : null;
  const whom = caller === null ? `for ${audienceWords(audience)}` : `as ${caller}`;
  const here = `at ${endpoint} ${whom}${chosen?.edition === undefined ? '' : ` in ${data.edition?.name}`}`;
  return (
    <Stack gap="xs" data-testid="other">
      <Group align="end">
        <NativeSelect
          label="Beside another response"
          value={chosen?.label ?? ''}
          onChange={(event) => go({ other: event.currentTarget.value })}
          data={[{ value: '', label: 'none' }, ...others.map(({ label }) => ({ value: label, label }))]}
        />
      </Group>
      {loaded.state === 'failed' ? (
        <Alert color="orange" role="alert">
          {loaded.message}
        </Alert>
      ) : null}
      {chosen === undefined || other === null ? null : (
        <>
          {chosen.accept === undefined ? (
            <>
              <Difference label={here} paths={onlyIn(beside, other)} />
              <Difference label={chosen.label} paths={onlyIn(other, beside)} />
            </>
          ) : null}
          <SimpleGrid cols={{ base: 1, md: 2 }}>
            <Stack gap={4}>
              <Title order={2} size="h6">
                {here}, {beside.sentBytes.toLocaleString('en')} bytes
              </Title>
              <Code text={laidOut(beside.json)} language="json" label="This response" />
            </Stack>
            <Stack gap={4}>
              <Title order={2} size="h6">
                {chosen.label}, {(format?.bytes ?? other.sentBytes).toLocaleString('en')} bytes
              </Title>
              <Code
                text={format?.text ?? laidOut(other.json)}
                language={format === null ? 'json' : languageOf(chosen.accept ?? '')}
                label="The other response"
              />
            </Stack>
          </SimpleGrid>
        </>
      )}
    </Stack>
  );
};
