import type { BesideData, BesideItem, BoardEndpoint } from '@gribo/cli';
import {
  Alert,
  Badge,
  Checkbox,
  Group,
  NativeSelect,
  SegmentedControl,
  SimpleGrid,
  Skeleton,
  Stack,
  Text,
  Title,
} from '@mantine/core';
import { useState } from 'react';
import { askApi, inEdition, laidOut, languageOf } from '../parts/ask-api.js';
import { Code } from '../parts/code.js';
import { OtherResponse } from '../parts/other-response.js';
import { Weights } from '../parts/weights.js';
import { useLoaded } from '../state/use-loaded.js';
import { toEndpoint, usePlace } from '../state/use-place.js';
import type { ViewProps } from '../state/view-props.js';

/** The height of a line in both lists, in pixels: the curves between them are drawn by it. */
const LINE = 26;
/** The width of what is between the lists, in the units of its drawing. */
const GAP = 100;

const middle = (index: number): number => index * LINE + LINE / 2;

interface ListProps {
  readonly title: string;
  readonly items: readonly BesideItem[];
  readonly lit: ReadonlySet<number>;
  readonly point: (index: number | null) => void;
  readonly used: ReadonlySet<number>;
}

const List = ({ title, items, lit, point, used }: ListProps) => (
  <section aria-label={title} className="side">
    <Title order={2} size="h6" className="side-title">
      {title}
    </Title>
    <ul>
      {items.map(({ path, text, seal }, index) => (
        <li
          key={path}
          className={[
            seal === null ? '' : 'sealed',
            lit.has(index) ? 'lit' : '',
            used.has(index) ? '' : 'unused',
          ].join(' ')}
          style={{ height: LINE }}
          onMouseEnter={() => point(index)}
          onMouseLeave={() => point(null)}
          title={`${path}: ${text}`}
        >
          <span className="path">{path}</span>
          <span className="text">{text}</span>
        </li>
      ))}
    </ul>
  </section>
);

/** The stored row, the response, and curves between what came from where. */
const Sides = ({ data, entity }: { readonly data: BesideData; readonly entity: string }) => {
  const [left, setLeft] = useState<number | null>(null);
  const [right, setRight] = useState<number | null>(null);
  const isLit = ({ from, to }: BesideData['links'][number]): boolean => from === left || to === right;
  const litLinks = data.links.filter(isLit);
  const height = Math.max(data.stored.length, data.sent.length) * LINE;
  const nothing = left === null && right === null;
  return (
    <div className="beside" data-testid="beside">
      <List
        title={`stored ${entity}`}
        items={data.stored}
        point={setLeft}
        lit={new Set([...(left === null ? [] : [left]), ...litLinks.map(({ from }) => from)])}
        used={new Set(data.links.map(({ from }) => from))}
      />
      <svg
        className="curves"
        viewBox={`0 0 ${GAP} ${height}`}
        height={height}
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        {data.links.map((link) => {
          const [y1, y2] = [middle(link.from), middle(link.to)];
          const shape = `M0 ${y1} C${GAP / 2} ${y1} ${GAP / 2} ${y2} ${GAP} ${y2}`;
          const state = nothing ? '' : isLit(link) ? ' lit' : ' dim';
          return <path key={`${link.from} ${link.to}`} d={shape} className={`curve ${link.mark}${state}`} />;
        })}
      </svg>
      <List
        title="sent"
        items={data.sent}
        point={setRight}
        lit={new Set([...(right === null ? [] : [right]), ...litLinks.map(({ to }) => to)])}
        used={new Set(data.sent.map((_item, index) => index))}
      />
    </div>
  );
};

const percent = ({ storedBytes, sentBytes }: BesideData): string => {
  if (storedBytes === 0) return '';
  const less = Math.round(100 * (1 - sentBytes / storedBytes));
  return less >= 0 ? `${less} % less` : `${-less} % more`;
};

interface BodyProps extends ViewProps {
  readonly beside: BesideData;
}

/** The response in one of the formats, as the API sends it. */
const ResponseBody = ({ data, audience, caller, turn, beside }: BodyProps) => {
  const [place, go] = usePlace();
  const isAsked = data.isLive && beside.request !== null;
  const formats = data.formats.filter(({ onlyLists }) => !onlyLists || beside.isList);
  const format = formats.find(({ name }) => name === place['format']) ?? formats[0];
  const accept = format?.mediaType ?? 'application/json';
  const names = (place['with'] ?? '').split(',').filter((name) => name !== '');
  const query =
    names.length === 0 ? '' : `${beside.request?.includes('?') === true ? '&' : '?'}with=${names.join(',')}`;
  const path = `${beside.request}${query}`;
  const written = useLoaded(
    `${path} ${data.edition?.name} ${audience} ${caller} ${accept} ${turn}`,
    async () => (isAsked ? askApi(inEdition(data, { method: 'GET', path, audience, caller, accept })) : null),
  );
  const shown = written.state === 'loaded' ? written.value : null;
  const type = shown?.headers.find(([name]) => name === 'content-type')?.[1] ?? 'application/json';
  const text =
    languageOf(type) === 'json' ? laidOut(shown?.text ?? beside.json) : (shown?.text ?? beside.json);
  return (
    <Stack gap="xs">
      <Group justify="space-between">
        <Title order={2} size="h6">
          {isAsked ? `GET ${path}` : 'As JSON'}
        </Title>
        {isAsked ? (
          <SegmentedControl
            size="xs"
            aria-label="Format"
            value={format?.name ?? 'json'}
            onChange={(name) => go({ format: name })}
            data={formats.map(({ name }) => ({ value: name, label: name }))}
          />
        ) : null}
      </Group>
      {written.state === 'failed' ? (
        <Alert color="red" role="alert">
          {written.message}
        </Alert>
      ) : (
        <Code text={text} language={languageOf(type)} label="The response" />
      )}
      {shown === null ? null : (
        <Text size="xs" c="dimmed">
          {shown.status} · {shown.bytes.toLocaleString('en')} bytes · {type}
        </Text>
      )}
    </Stack>
  );
};

const Choices = ({
  data,
  endpoint,
  beside,
}: {
  readonly data: ViewProps['data'];
  readonly endpoint: BoardEndpoint;
  readonly beside: BesideData | null;
}) => {
  const [place, go] = usePlace();
  const asked = (place['with'] ?? '').split(',').filter((name) => name !== '');
  const toggle = (name: string): void => {
    const next = asked.includes(name) ? asked.filter((other) => other !== name) : [...asked, name];
    go({ with: next.join(',') });
  };
  return (
    <Group align="end">
      <NativeSelect
        label="Endpoint"
        value={endpoint.name}
        onChange={(event) => go(toEndpoint(event.currentTarget.value))}
        data={data.endpoints.filter(({ sends }) => sends !== null).map(({ name }) => name)}
      />
      <NativeSelect
        label="Record"
        value={beside?.key ?? ''}
        onChange={(event) => go({ key: event.currentTarget.value })}
        data={(beside?.keys ?? []).map(({ key, label }) => ({ value: key, label }))}
        disabled={!data.isLive}
      />
      {data.isLive
        ? endpoint.asks.map((name) => (
            <Checkbox
              key={name}
              label={`with=${name}`}
              checked={asked.includes(name)}
              onChange={() => toggle(name)}
              pb={8}
            />
          ))
        : null}
    </Group>
  );
};

const MARKS = ['kept', 'renamed', 'flattened', 'nested', 'converted', 'computed', 'unsealed'] as const;

/** A stored row on the left, what is sent of it on the right, and what it weighs. */
export const BesideView = (props: ViewProps) => {
  const { data, source, audience, caller, turn } = props;
  const [place] = usePlace();
  const sending = data.endpoints.filter(({ sends }) => sends !== null);
  const endpoint =
    sending.find(({ name }) => name === place['endpoint']) ??
    sending.find(({ name }) => name.endsWith('.read')) ??
    sending[0];
  const names = (place['with'] ?? '').split(',').filter((name) => name !== '');
  const asked = {
    endpoint: endpoint?.name ?? '',
    audience,
    caller,
    key: place['key'] ?? null,
    with: names,
    edition: data.edition?.name ?? '',
  };
  const loaded = useLoaded(JSON.stringify([asked, turn]), () => source.beside(asked));
  if (endpoint === undefined) return <Alert title="Nothing is sent yet">No endpoint returns a body.</Alert>;
  const beside = loaded.state === 'loaded' ? loaded.value : null;
  return (
    <Stack>
      <Choices data={data} endpoint={endpoint} beside={beside} />
      {loaded.state === 'failed' ? (
        <Alert color="orange" title="There is nothing to compare" role="alert">
          {loaded.message}
        </Alert>
      ) : null}
      {loaded.state === 'loading' ? <Skeleton height={320} role="status" aria-label="Loading" /> : null}
      {beside !== null && beside.key === null ? (
        <Alert title="No row is stored">Store one, or serve sample rows: gribo serve --samples.</Alert>
      ) : null}
      {beside === null || beside.key === null ? null : (
        <>
          <Group gap="xs">
            <Badge variant="light" tt="none">
              {beside.storedBytes.toLocaleString('en')} bytes stored, with all that was loaded
            </Badge>
            <Badge variant="light" tt="none">
              {beside.sentBytes.toLocaleString('en')} bytes sent
            </Badge>
            <Text size="sm">{percent(beside)}</Text>
            <Group gap="xs" component="ul" className="legend" aria-label="What the curves mean">
              {MARKS.map((mark) => (
                <li key={mark}>
                  <span className={`dash ${mark}`} />
                  <Text size="xs" component="span">
                    {mark}
                  </Text>
                </li>
              ))}
            </Group>
          </Group>
          <Sides data={beside} entity={endpoint.sends ?? ''} />
          <SimpleGrid cols={{ base: 1, md: 2 }}>
            <ResponseBody {...props} beside={beside} />
            {beside.weight === null ? null : (
              <Stack gap="xs">
                <Title order={2} size="h6">
                  Bytes by member
                </Title>
                <Weights weight={beside.weight} />
              </Stack>
            )}
          </SimpleGrid>
          <OtherResponse
            {...{ data, source, audience, caller, beside, turn }}
            endpoint={endpoint.name}
            entity={endpoint.sends ?? ''}
          />
        </>
      )}
    </Stack>
  );
};
