import type { BoardData } from '@gribo/cli';
import {
  ActionIcon,
  Alert,
  AppShell,
  Badge,
  Group,
  NativeSelect,
  Skeleton,
  Stack,
  Tabs,
  Text,
  Title,
  useComputedColorScheme,
  useMantineColorScheme,
} from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { openSource } from './state/source.js';
import { useLoaded } from './state/use-loaded.js';
import { type Place, usePlace } from './state/use-place.js';
import type { ViewProps } from './state/view-props.js';
import { BesideView } from './views/beside-view.js';
import { ContractView } from './views/contract-view.js';
import { DraftView } from './views/draft-view.js';
import { RowsView } from './views/rows-view.js';
import { TableView } from './views/table-view.js';
import { TryView } from './views/try-view.js';

const VIEWS = [
  ['table', 'Table'],
  ['rows', 'Rows'],
  ['beside', 'Beside'],
  ['try', 'Try'],
  ['draft', 'Draft'],
  ['contract', 'Contract'],
] as const;

const SchemeSwitch = () => {
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme('light');
  const other = scheme === 'dark' ? 'light' : 'dark';
  return (
    <ActionIcon
      variant="default"
      aria-label={`Show in ${other} colours`}
      onClick={() => setColorScheme(other)}
    >
      {scheme === 'dark' ? '☀' : '☾'}
    </ActionIcon>
  );
};

/** In which edition the API is shown, where it has several. */
const EditionSelect = ({ data }: { readonly data: BoardData }) => {
  const [, go] = usePlace();
  const { edition } = data;
  if (edition === null || edition.all.length < 2 || !data.isLive) return null;
  const newest = edition.all.at(-1);
  return (
    <NativeSelect
      aria-label="Edition"
      value={edition.name}
      onChange={({ currentTarget: { value } }) => go({ edition: value === newest ? '' : value })}
      data={[...edition.all].reverse().map((name) => ({ value: name, label: name }))}
    />
  );
};

/** Callers stand among audiences in the choice, under names that no audience has. */
const CALLER = 'caller: ';

/** An audience, or a caller that the configuration names. */
const WhomSelect = ({ data, chosen }: { readonly data: BoardData; readonly chosen: string }) => {
  const [, go] = usePlace();
  if (data.audiences.length + data.callers.length === 0) return null;
  const choose = (value: string): void =>
    value.startsWith(CALLER)
      ? go({ caller: value.slice(CALLER.length), audience: '' })
      : go({ audience: value, caller: '' });
  const audiences = [
    ...data.audiences.map((name) => ({ value: name, label: `for ${name}` })),
    { value: 'nobody', label: 'for no audience' },
  ];
  const callers = data.callers.map(({ name }) => ({ value: CALLER + name, label: `as ${name}` }));
  return (
    <NativeSelect
      aria-label="Audience"
      value={chosen}
      onChange={(event) => choose(event.currentTarget.value)}
      data={callers.length === 0 ? audiences : [...audiences, { group: 'Callers', items: callers }]}
    />
  );
};

/** Whom responses are for: a caller by its name, or an audience. */
const whomAt = (data: BoardData, place: Place): Pick<ViewProps, 'audience' | 'caller'> => {
  const caller = data.callers.find(({ name }) => name === place['caller']);
  if (caller !== undefined) return { audience: caller.audience, caller: caller.name };
  const chosen = place['audience'] ?? data.audiences[0] ?? 'nobody';
  return { audience: chosen === 'nobody' ? null : chosen, caller: null };
};

const Loading = () => (
  <Stack p="md" aria-label="Loading" role="status">
    <Skeleton height={28} width={280} />
    <Skeleton height={360} />
  </Stack>
);

const Shell = ({ data, source, turn }: Omit<ViewProps, 'audience' | 'caller'>) => {
  const [place, go] = usePlace();
  const view = VIEWS.some(([name]) => name === place['view']) ? place['view'] : 'table';
  const whom = whomAt(data, place);
  const chosen = whom.caller === null ? (whom.audience ?? 'nobody') : CALLER + whom.caller;
  const props: ViewProps = { data, source, ...whom, turn };
  useEffect(() => {
    document.title = `${data.title} · Gribo board`;
  }, [data.title]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another view begins at its top
  useEffect(() => {
    window.scrollTo(0, 0);
  }, [view]);
  return (
    <Tabs
      value={view ?? 'table'}
      onChange={(next) => go({ view: next ?? 'table' }, true)}
      keepMounted={false}
    >
      <AppShell header={{ height: { base: 104, sm: 56 } }} padding="md">
        <AppShell.Header px="md">
          <div className="head">
            <Group gap="xs" wrap="nowrap" className="head-title">
              <Title order={1} size="h4" lineClamp={1}>
                {data.title}
              </Title>
              <Badge variant="light" tt="none" className="still">
                {data.version}
              </Badge>
            </Group>
            <Tabs.List className="head-tabs" aria-label="Views">
              {VIEWS.map(([name, label]) => (
                <Tabs.Tab key={name} value={name}>
                  {label}
                </Tabs.Tab>
              ))}
            </Tabs.List>
            <Group gap="xs" wrap="nowrap" className="head-tools">
              {view === 'draft' ? null : <EditionSelect data={data} />}
              {view === 'contract' ? null : <WhomSelect data={data} chosen={chosen} />}
              <SchemeSwitch />
            </Group>
          </div>
        </AppShell.Header>
        <AppShell.Main>
          <Tabs.Panel value="table">
            <TableView {...props} />
          </Tabs.Panel>
          <Tabs.Panel value="rows">
            <RowsView {...props} />
          </Tabs.Panel>
          <Tabs.Panel value="beside">
            <BesideView {...props} />
          </Tabs.Panel>
          <Tabs.Panel value="try">
            <TryView {...props} />
          </Tabs.Panel>
          <Tabs.Panel value="draft">
            <DraftView {...props} />
          </Tabs.Panel>
          <Tabs.Panel value="contract">
            <ContractView {...props} />
          </Tabs.Panel>
          <Text size="xs" c="dimmed" mt="xl" component="footer">
            {data.isLive
              ? 'For development, on this machine only: callers say themselves whom they are.'
              : 'A copy, with made-up rows: nothing can be sent from here.'}
          </Text>
        </AppShell.Main>
      </AppShell>
    </Tabs>
  );
};

/** The board: loads its data, and again each time declarations change. */
export const App = () => {
  const source = useMemo(openSource, []);
  const [turn, setTurn] = useState(0);
  useEffect(() => source.listen(() => setTurn((last) => last + 1)), [source]);
  const [{ edition = '' }] = usePlace();
  const loaded = useLoaded(JSON.stringify([turn, edition]), () => source.data(edition));
  if (loaded.state === 'loading') return <Loading />;
  if (loaded.state === 'failed') {
    return (
      <Alert m="md" color="red" title="The board’s data could not be loaded" role="alert">
        {loaded.message} Is the server still running? Start it again and reload this page.
      </Alert>
    );
  }
  return <Shell data={loaded.value} source={source} turn={turn} />;
};
