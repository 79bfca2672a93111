import { Alert, Badge, ScrollArea, Stack, Table, Text } from '@mantine/core';
import type { ViewProps } from '../state/view-props.js';

/** `all` and `none` are words of their own; the rest is a condition. */
const Which = ({ words }: { readonly words: string }) =>
  words === 'all' || words === 'none' ? (
    <Text size="sm" fw={600} c={words === 'none' ? 'dimmed' : 'inherit'}>
      {words}
    </Text>
  ) : (
    <Text size="sm">{words}</Text>
  );

const whomWords = (audiences: readonly (string | null)[]): string =>
  audiences.map((name) => name ?? 'no audience').join(', ');

/** Which rows callers see and change: what is for the chosen one stands out. */
export const RowsView = ({ data, audience }: ViewProps) => (
  <Stack>
    {data.rows.length === 0 ? (
      <Alert title="No row rule is declared">Every caller sees and changes all rows of all entities.</Alert>
    ) : (
      <ScrollArea type="auto" viewportProps={{ tabIndex: 0, 'aria-label': 'The rules' }}>
        <Table withTableBorder verticalSpacing={6} data-testid="rows">
          <Table.Thead>
            <Table.Tr>
              <Table.Th scope="col">Rows of</Table.Th>
              <Table.Th scope="col">Callers</Table.Th>
              <Table.Th scope="col">see</Table.Th>
              <Table.Th scope="col">change</Table.Th>
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {data.rows.map(({ entity, audiences, sees, changes }, i) => {
              const isChosen = audiences.includes(audience);
              return (
                <Table.Tr
                  key={`${entity} ${whomWords(audiences)}`}
                  className={isChosen ? 'chosen' : 'others'}
                >
                  <Table.Th scope="row">{data.rows[i - 1]?.entity === entity ? '' : entity}</Table.Th>
                  <Table.Td>
                    {whomWords(audiences)}{' '}
                    {isChosen ? (
                      <Badge size="sm" variant="light" tt="none">
                        chosen
                      </Badge>
                    ) : null}
                  </Table.Td>
                  <Table.Td>
                    <Which words={sees} />
                  </Table.Td>
                  <Table.Td>
                    <Which words={changes} />
                  </Table.Td>
                </Table.Tr>
              );
            })}
          </Table.Tbody>
        </Table>
      </ScrollArea>
    )}
    {data.everybodys.length === 0 || data.rows.length === 0 ? null : (
      <Text size="sm">
        No rule says whose these are, so they are everybody’s: {data.everybodys.join(', ')}.
      </Text>
    )}
  </Stack>
);
