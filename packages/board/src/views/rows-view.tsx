import { Alert, Badge, Group, NativeSelect, ScrollArea, Stack, Table, Text, Title } from '@mantine/core';
import { useLoaded } from '../state/use-loaded.js';
import { usePlace } from '../state/use-place.js';
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

const Mark = ({ is, what }: { readonly is: boolean; readonly what: string }) => (
  <span className={is ? 'mark yes' : 'mark no'} role="img" aria-label={is ? what : `not ${what}`}>
    {is ? '✓' : '–'}
  </span>
);

/** The rules tried on stored rows: which of them the chosen caller sees and changes. */
const TriedRows = ({ data, source, audience, caller, turn }: ViewProps) => {
  const [place, go] = usePlace();
  const names = data.model.map(({ name }) => name);
  const entity = names.find((name) => name === place['entity']) ?? data.rows[0]?.entity ?? names[0] ?? '';
  const edition = data.edition?.name ?? '';
  const loaded = useLoaded(JSON.stringify([entity, audience, caller, edition, turn]), async () =>
    entity === '' ? null : source.rows(entity, audience, caller, edition),
  );
  const seen = loaded.state === 'loaded' ? loaded.value : null;
  return (
    <Stack gap="xs" data-testid="tried">
      <Title order={2} size="h5">
        Tried on stored rows
      </Title>
      <Group align="end">
        <NativeSelect
          label="Rows of"
          value={entity}
          data={names}
          onChange={(event) => go({ entity: event.currentTarget.value })}
        />
        {seen === null ? null : (
          <Text size="sm" pb={8}>
            {caller ?? audience ?? 'A caller of no audience'} sees {seen.seen} of {seen.stored}.
          </Text>
        )}
      </Group>
      {loaded.state === 'failed' ? (
        <Alert color="orange" role="alert">
          {loaded.message}
        </Alert>
      ) : null}
      {seen === null ? null : seen.rows.length === 0 ? (
        <Text size="sm">None is stored.</Text>
      ) : (
        <ScrollArea type="auto" viewportProps={{ tabIndex: 0, 'aria-label': 'Stored rows' }}>
          <Table withTableBorder verticalSpacing={3} w="auto" miw={340}>
            <Table.Thead>
              <Table.Tr>
                <Table.Th scope="col">Row</Table.Th>
                <Table.Th scope="col">seen</Table.Th>
                <Table.Th scope="col">changed</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {seen.rows.map(({ key, label, isSeen, isChanged }) => (
                <Table.Tr key={key} className={isSeen ? '' : 'others'}>
                  <Table.Th scope="row">{label}</Table.Th>
                  <Table.Td>
                    <Mark is={isSeen} what="seen" />
                  </Table.Td>
                  <Table.Td>
                    <Mark is={isChanged} what="changed" />
                  </Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
        </ScrollArea>
      )}
    </Stack>
  );
};

/** Which rows callers see and change: what is for the chosen one stands out. */
export const RowsView = (props: ViewProps) => {
  const { data, audience } = props;
  return (
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
      {data.isLive ? <TriedRows {...props} /> : null}
    </Stack>
  );
};
