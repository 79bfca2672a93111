import type { DraftWish } from '@gribo/cli';
import {
  Alert,
  Button,
  Fieldset,
  Group,
  NativeSelect,
  SimpleGrid,
  Stack,
  Tabs,
  Text,
  TextInput,
} from '@mantine/core';
import { useState } from 'react';
import { laidOut } from '../parts/ask-api.js';
import { Code } from '../parts/code.js';
import { CopiedLine } from '../parts/copied-line.js';
import { type Choices, capital, membersOf, type Taken, takenOf } from '../parts/draft-state.js';
import { DraftTable } from '../parts/draft-table.js';
import { useLoaded } from '../state/use-loaded.js';
import { usePlace } from '../state/use-place.js';
import type { ViewProps } from '../state/view-props.js';

/** What requests set: each column left out, required, or optional. */
const TakenFields = ({
  columns,
  taken,
  take,
}: {
  readonly columns: readonly { readonly name: string }[];
  readonly taken: Taken;
  readonly take: (taken: Taken) => void;
}) => (
  <Fieldset legend="What comes in">
    <SimpleGrid cols={{ base: 2, sm: 3 }} spacing="xs" verticalSpacing="xs">
      {columns.map(({ name }) => {
        const { [name]: isOptional, ...rest } = taken;
        return (
          <NativeSelect
            key={name}
            size="xs"
            label={name}
            value={isOptional === undefined ? '' : isOptional ? 'optional' : 'required'}
            data={[
              { value: '', label: 'left out' },
              { value: 'required', label: 'required' },
              { value: 'optional', label: 'optional' },
            ]}
            onChange={({ currentTarget: { value } }) =>
              take(value === '' ? rest : { ...rest, [name]: value === 'optional' })
            }
          />
        );
      })}
    </SimpleGrid>
  </Fieldset>
);

/** Writes the draft as a new file of the project. */
const WriteFile = ({ wish, source }: { readonly wish: DraftWish; readonly source: ViewProps['source'] }) => {
  const [file, setFile] = useState(`src/${wish.entity}-draft.ts`);
  const [said, setSaid] = useState<{ readonly text: string; readonly isWrong: boolean } | null>(null);
  const write = async (): Promise<void> => {
    try {
      const written = await source.write(wish, file);
      setSaid({ text: `${written.file} is written.`, isWrong: false });
    } catch (error) {
      setSaid({ text: error instanceof Error ? error.message : String(error), isWrong: true });
    }
  };
  return (
    <Stack gap="xs">
      <Group align="end">
        <TextInput
          label="As a new file"
          description="from the folder of gribo.config.ts"
          value={file}
          onChange={(event) => setFile(event.currentTarget.value)}
        />
        <Button variant="default" onClick={() => void write()}>
          Write it
        </Button>
      </Group>
      {said === null ? null : (
        <Alert color={said.isWrong ? 'orange' : 'teal'} role={said.isWrong ? 'alert' : 'status'}>
          {said.text}
        </Alert>
      )}
    </Stack>
  );
};

/** A shape and an input for one entity, being designed. */
const Drafting = ({ data, source, audience, turn, entity }: ViewProps & { readonly entity: string }) => {
  const [place, go] = usePlace();
  const [choices, choose] = useState<Choices>({});
  const [taken, take] = useState<Taken>({});
  const [name, setName] = useState(`${capital(entity)}Card`);
  const [model, setModel] = useState('./model.js');
  const found = data.model.find((each) => each.name === entity);
  const wish: DraftWish = {
    entity,
    name,
    members: membersOf(data.model, entity, choices),
    takes: takenOf(taken),
    audience,
    endpoint: place['at'] ?? null,
    key: place['key'] ?? null,
    model,
  };
  const isEmpty = wish.members.length === 0 && wish.takes.length === 0;
  const loaded = useLoaded(JSON.stringify([wish, turn]), async () => (isEmpty ? null : source.draft(wish)));
  const draft = loaded.state === 'loaded' ? loaded.value : null;
  const places = [...new Set(data.endpoints.map(({ name: each }) => each.split('.').at(-1) ?? each))];
  const openColumns = (found?.columns ?? []).filter((column) => !found?.made.includes(column.name));
  const all = (): void =>
    choose(
      Object.fromEntries(
        (found?.columns ?? [])
          .filter(({ sealed }) => sealed === null)
          .map((column) => [column.name, { how: 'column', name: column.name, audiences: [], endpoints: [] }]),
      ),
    );
  return (
    <div className="drafting">
      <Stack>
        <Group align="end">
          <TextInput label="Called" value={name} onChange={(event) => setName(event.currentTarget.value)} />
          <TextInput
            label="The model is in"
            value={model}
            onChange={(event) => setModel(event.currentTarget.value)}
          />
          <Button variant="default" onClick={all}>
            All open columns
          </Button>
        </Group>
        <DraftTable {...{ data, entity, choices, choose }} />
        <TakenFields columns={openColumns} taken={taken} take={take} />
      </Stack>
      <Stack className="response" data-testid="drafted" aria-live="polite">
        <Group align="end">
          <NativeSelect
            label="Shown at"
            value={place['at'] ?? ''}
            data={[{ value: '', label: 'no endpoint' }, ...places]}
            onChange={(event) => go({ at: event.currentTarget.value })}
          />
          <NativeSelect
            label="Record"
            value={place['key'] ?? draft?.keys[0] ?? ''}
            data={[...(draft?.keys ?? [])]}
            onChange={(event) => go({ key: event.currentTarget.value })}
          />
        </Group>
        {isEmpty ? (
          <Text c="dimmed">
            Choose columns and links on the left: the response, its schema and the text appear here.
          </Text>
        ) : null}
        {loaded.state === 'failed' ? (
          <Alert color="red" role="alert">
            {loaded.message}
          </Alert>
        ) : null}
        {draft?.wrong == null ? null : (
          <Alert color="orange" role="alert" title="It cannot be declared so">
            {draft.wrong}
          </Alert>
        )}
        {draft === null ? null : (
          <Tabs defaultValue="response">
            <Tabs.List aria-label="The draft">
              <Tabs.Tab value="response">Response</Tabs.Tab>
              <Tabs.Tab value="text">TypeScript</Tabs.Tab>
              <Tabs.Tab value="schema">Schema</Tabs.Tab>
            </Tabs.List>
            <Tabs.Panel value="response" pt="xs">
              {draft.response === null ? (
                <Text size="sm">{draft.wrong === null ? 'Nothing is sent.' : 'There is none yet.'}</Text>
              ) : (
                <Code text={laidOut(draft.response)} language="json" label="The response" />
              )}
            </Tabs.Panel>
            <Tabs.Panel value="text" pt="xs">
              <CopiedLine what="TypeScript" text={draft.source} />
            </Tabs.Panel>
            <Tabs.Panel value="schema" pt="xs">
              <Code
                text={JSON.stringify(draft.schema ?? draft.takes, null, 2)}
                language="json"
                label="The schema"
              />
            </Tabs.Panel>
          </Tabs>
        )}
        {draft === null || draft.wrong !== null ? null : <WriteFile wish={wish} source={source} />}
      </Stack>
    </div>
  );
};

/** Designs a shape for an entity, and shows what it would send as it grows. */
export const DraftView = (props: ViewProps) => {
  const { data } = props;
  const [place, go] = usePlace();
  if (!data.isLive)
    return <Alert title="This is a copy">There is no API behind it. gribo serve has one.</Alert>;
  const names = data.model.map(({ name }) => name);
  const entity = names.find((name) => name === place['entity']) ?? names[0];
  if (entity === undefined)
    return (
      <Alert title="The model is not known here">
        Export it from the configuration: export default {'{'} api, store, model: db {'}'}.
      </Alert>
    );
  return (
    <Stack>
      <NativeSelect
        label="Entity"
        value={entity}
        data={names}
        onChange={(event) => go({ entity: event.currentTarget.value, key: '' })}
        style={{ maxWidth: 260 }}
      />
      <Drafting key={entity} {...props} entity={entity} />
    </Stack>
  );
};
