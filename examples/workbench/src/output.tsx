import { Alert, Progress, Table, Text, Title } from '@mantine/core';
import type { Weight } from 'gribo';
import type { ReactNode } from 'react';
import type { Made } from './result.js';

interface PaneProps {
  readonly title: string;
  readonly children: ReactNode;
}

/** One of the four things that come of an edit. */
const Pane = ({ title, children }: PaneProps) => (
  // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard
  <section className={`pane ${title.toLowerCase().replace(' ', '-')}`} aria-label={title} tabIndex={0}>
    <Title order={2} size="h6">
      {title}
    </Title>
    {children}
  </section>
);

/** The members of the rows, the heaviest first. */
const heaviest = (weight: Weight): readonly Weight[] =>
  [...(weight.members[0]?.members ?? [])].sort((a, b) => b.bytes - a.bytes);

const Sizes = ({ weight, storedBytes }: Made) => (
  <>
    <Text size="sm">
      {storedBytes.toLocaleString('en')} bytes stored, {weight.bytes.toLocaleString('en')} bytes sent
    </Text>
    <Table aria-label="Bytes by member" verticalSpacing={1} fz="xs">
      <Table.Tbody>
        {heaviest(weight).map(({ name, bytes }) => (
          <Table.Tr key={name}>
            <Table.Th scope="row">{name}</Table.Th>
            <Table.Td ta="right">{bytes.toLocaleString('en')}</Table.Td>
            <Table.Td w="45%">
              <Progress value={(100 * bytes) / weight.bytes} aria-label={`${name}: ${bytes} bytes`} />
            </Table.Td>
          </Table.Tr>
        ))}
      </Table.Tbody>
    </Table>
  </>
);

/** What came of an edit, all of it at once; the last that worked stays below a mistake. */
export const Output = ({ made, message }: { readonly made: Made | null; readonly message: string }) => (
  <div className="output">
    {message === '' ? null : (
      <Alert color="orange" role="alert" title="Not yet" className="mistake">
        {message}
      </Alert>
    )}
    {made === null && message === '' ? <Text role="status">Getting ready…</Text> : null}
    {made === null ? null : (
      <div className="panes">
        <Pane title="Response">
          <pre>{made.response}</pre>
        </Pane>
        <Pane title="Load plan">
          <pre>{made.load.join('\n')}</pre>
        </Pane>
        <Pane title="Size">
          <Sizes {...made} />
        </Pane>
        <Pane title="Schema">
          <pre>{made.schema}</pre>
        </Pane>
      </div>
    )}
  </div>
);
