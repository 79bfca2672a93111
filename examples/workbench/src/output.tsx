import { Alert, Badge, Group, Progress, Table, Tabs, Text } from '@mantine/core';
import type { Weight } from 'gribo';
import type { Made } from './result.js';

const Text_ = ({ text, label }: { readonly text: string; readonly label: string }) => (
  // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard
  <section className="code" aria-label={label} tabIndex={0}>
    <pre>{text}</pre>
  </section>
);

/** The members of the rows, the heaviest first. */
const heaviest = (weight: Weight): readonly Weight[] =>
  [...(weight.members[0]?.members ?? [])].sort((a, b) => b.bytes - a.bytes);

const Sizes = ({ made }: { readonly made: Made }) => {
  const { weight, storedBytes } = made;
  return (
    <>
      <Group gap="xs" my="xs">
        <Badge variant="outline" tt="none" className="size">
          {storedBytes.toLocaleString('en')} bytes stored
        </Badge>
        <Badge variant="outline" tt="none" className="size">
          {weight.bytes.toLocaleString('en')} bytes sent
        </Badge>
      </Group>
      <Table aria-label="Bytes by member" verticalSpacing={4}>
        <Table.Tbody>
          {heaviest(weight).map(({ name, bytes }) => (
            <Table.Tr key={name}>
              <Table.Th scope="row">{name}</Table.Th>
              <Table.Td ta="right">{bytes.toLocaleString('en')}</Table.Td>
              <Table.Td w="50%">
                <Progress value={(100 * bytes) / weight.bytes} aria-label={`${name}: ${bytes} bytes`} />
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </>
  );
};

/** What came of an edit; the last that worked stays below a mistake. */
export const Output = ({ made, message }: { readonly made: Made | null; readonly message: string }) => (
  <div className="output">
    {message === '' ? null : (
      <Alert color="orange" role="alert" title="Not yet" className="mistake">
        {message}
      </Alert>
    )}
    {made === null ? (
      message === '' ? (
        <Text role="status">Getting ready…</Text>
      ) : null
    ) : (
      <Tabs defaultValue="response">
        <Tabs.List aria-label="What came of it">
          <Tabs.Tab value="response">Response</Tabs.Tab>
          <Tabs.Tab value="schema">Schema</Tabs.Tab>
          <Tabs.Tab value="load">Load plan</Tabs.Tab>
          <Tabs.Tab value="size">Size</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="response">
          <Text_ text={made.response} label="Response" />
        </Tabs.Panel>
        <Tabs.Panel value="schema">
          <Text_ text={made.schema} label="Schema" />
        </Tabs.Panel>
        <Tabs.Panel value="load">
          <Text_ text={made.load.join('\n')} label="Load plan" />
        </Tabs.Panel>
        <Tabs.Panel value="size">
          <Sizes made={made} />
        </Tabs.Panel>
      </Tabs>
    )}
  </div>
);
