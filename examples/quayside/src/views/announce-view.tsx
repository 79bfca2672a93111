import { ApiProblem } from '@gribo-examples/harbour/generated/client.js';
import {
  Alert,
  Button,
  Fieldset,
  Group,
  NativeSelect,
  SimpleGrid,
  Stack,
  Switch,
  Text,
  Textarea,
  TextInput,
} from '@mantine/core';
import { type FormEvent, useState } from 'react';
import {
  type AnnouncementText,
  type CargoText,
  checkAnnouncement,
  EMPTY,
  NO_CARGO,
  type Wrong,
  wrongOf,
} from '../announcement.js';
import { AGENT_OF, agentClient, type Whom, wordsOf } from '../call-api.js';
import { useLoaded } from '../use-loaded.js';
import { Waiting } from './status.js';

interface CargoProps {
  readonly cargo: CargoText;
  readonly index: number;
  readonly wrong: Wrong;
  readonly change: (cargo: CargoText | null) => void;
}

const Cargo = ({ cargo, index, wrong, change }: CargoProps) => {
  const field = (name: keyof CargoText, label: string) => (
    <TextInput
      label={label}
      value={cargo[name]}
      error={wrong[`/cargo/${index}/${name}`]}
      onChange={(event) => change({ ...cargo, [name]: event.currentTarget.value })}
    />
  );
  return (
    <Fieldset legend={`Cargo ${index + 1}`}>
      <SimpleGrid cols={{ base: 1, xs: 2, md: 4 }}>
        {field('commodity', 'Commodity')}
        {field('weightKg', 'Weight in kg')}
        {field('hazardClass', 'Hazard class')}
        {field('consignee', 'Consignee')}
      </SimpleGrid>
      <Button variant="subtle" size="compact-sm" mt="xs" onClick={() => change(null)}>
        Remove cargo {index + 1}
      </Button>
    </Fieldset>
  );
};

/** What is to be chosen from. */
interface Choices {
  readonly vessels: readonly { readonly value: string; readonly label: string }[];
  readonly berths: readonly { readonly value: string; readonly label: string }[];
}

const loadChoices = async (): Promise<Choices> => {
  const [vessels, berths] = await Promise.all([
    agentClient('vessels.list', { query: { size: 100 } }),
    agentClient('berths.options'),
  ]);
  return {
    // An agent announces the vessels of its own operator: of others, the office would answer 403.
    vessels: vessels.items
      .filter(({ operatorName }) => operatorName === AGENT_OF)
      .map(({ id, name }) => ({ value: String(id), label: name })),
    berths: berths.map(({ id, code, name }) => ({ value: String(id), label: `${code} · ${name}` })),
  };
};

const Form = ({ choices }: { readonly choices: Choices }) => {
  const [text, setText] = useState<AnnouncementText>(EMPTY);
  const [wrong, setWrong] = useState<Wrong>({});
  const [failure, setFailure] = useState('');
  const [done, setDone] = useState('');
  const [isSending, setSending] = useState(false);
  const set = (change: Partial<AnnouncementText>): void => setText((last) => ({ ...last, ...change }));
  const setCargo = (index: number, cargo: CargoText | null): void =>
    set({ cargo: text.cargo.flatMap((one, i) => (i === index ? (cargo === null ? [] : [cargo]) : [one])) });

  const send = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setFailure('');
    setDone('');
    const checked = checkAnnouncement(crypto.randomUUID(), text);
    setWrong('wrong' in checked ? checked.wrong : {});
    if ('wrong' in checked) return;
    setSending(true);
    try {
      const made = await agentClient('portCalls.create', { body: checked.body });
      setDone(`${made.vessel.name} is announced.`);
      setText(EMPTY);
    } catch (error) {
      const errors = error instanceof ApiProblem ? (error.problem.errors ?? []) : [];
      setWrong(
        wrongOf(
          errors.flatMap(({ pointer, message }) => (pointer === undefined ? [] : [{ pointer, message }])),
        ),
      );
      setFailure(wordsOf(error));
    } finally {
      setSending(false);
    }
  };

  return (
    <form noValidate onSubmit={send} aria-label="Announce a port call">
      <Stack>
        {done === '' ? null : (
          <Alert color="teal" role="status">
            {done}
          </Alert>
        )}
        {failure === '' ? null : (
          <Alert color="red" role="alert">
            {failure}
          </Alert>
        )}
        <SimpleGrid cols={{ base: 1, xs: 2 }}>
          <NativeSelect
            label="Vessel"
            withAsterisk
            value={text.vessel}
            error={wrong['/vessel/id'] ?? wrong['/vessel']}
            onChange={(event) => set({ vessel: event.currentTarget.value })}
            data={[{ value: '', label: 'choose one' }, ...choices.vessels]}
          />
          <NativeSelect
            label="Berth"
            value={text.berth}
            error={wrong['/berth/id']}
            onChange={(event) => set({ berth: event.currentTarget.value })}
            data={[{ value: '', label: 'none yet' }, ...choices.berths]}
          />
          <TextInput
            label="Expected, in UTC"
            withAsterisk
            type="datetime-local"
            value={text.eta}
            error={wrong['/eta']}
            onChange={(event) => set({ eta: event.currentTarget.value })}
          />
          <TextInput
            label="To sail, in UTC"
            type="datetime-local"
            value={text.etd}
            error={wrong['/etd']}
            onChange={(event) => set({ etd: event.currentTarget.value })}
          />
        </SimpleGrid>
        <Switch
          label="It carries hazardous goods"
          checked={text.hazardous}
          onChange={(event) => set({ hazardous: event.currentTarget.checked })}
        />
        {text.hazardous ? (
          <Textarea
            label="What is hazardous"
            autosize
            minRows={2}
            value={text.hazardDetail}
            error={wrong['/hazard/detail']}
            onChange={(event) => set({ hazardDetail: event.currentTarget.value })}
          />
        ) : null}
        <Textarea
          label="Remarks"
          autosize
          minRows={2}
          value={text.remarks}
          error={wrong['/remarks']}
          onChange={(event) => set({ remarks: event.currentTarget.value })}
        />
        {text.cargo.map((cargo, index) => (
          <Cargo
            // biome-ignore lint/suspicious/noArrayIndexKey: a row of the form has no other name
            key={index}
            cargo={cargo}
            index={index}
            wrong={wrong}
            change={(next) => setCargo(index, next)}
          />
        ))}
        <Group>
          <Button variant="default" onClick={() => set({ cargo: [...text.cargo, NO_CARGO] })}>
            Add cargo
          </Button>
          <Button type="submit" loading={isSending}>
            Announce
          </Button>
        </Group>
      </Stack>
    </form>
  );
};

/** Where an agent announces a port call. */
export const AnnounceView = ({ whom, become }: { readonly whom: Whom; readonly become: () => void }) => {
  const loaded = useLoaded(whom, loadChoices);
  if (whom !== 'agent') {
    return (
      <Alert title="Port calls are announced by ship’s agents">
        <Text size="sm" mb="sm">
          In this demo everybody may be one.
        </Text>
        <Button onClick={become}>I am a ship’s agent</Button>
      </Alert>
    );
  }
  return loaded.state === 'loaded' ? <Form choices={loaded.value} /> : <Waiting loaded={loaded} />;
};
