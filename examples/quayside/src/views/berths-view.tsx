import { Badge, Stack, Table, Text } from '@mantine/core';
import { clientFor, type Whom } from '../call-api.js';
import { useLoaded } from '../use-loaded.js';
import { Waiting } from './status.js';

/** Where vessels lie, and how deep it is there. */
export const BerthsView = ({ whom }: { readonly whom: Whom }) => {
  const loaded = useLoaded(whom, () => clientFor(whom)('berths.list'));
  if (loaded.state !== 'loaded') return <Waiting loaded={loaded} />;
  return (
    <Stack>
      <Table.ScrollContainer minWidth={560}>
        <Table verticalSpacing="sm" aria-label="Berths">
          <Table.Thead>
            <Table.Tr>
              <Table.Th scope="col">Berth</Table.Th>
              <Table.Th scope="col">Quay</Table.Th>
              <Table.Th scope="col">Draught</Table.Th>
              <Table.Th scope="col">Now</Table.Th>
              <Table.Th scope="col">What it is like</Table.Th>
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {loaded.value.map(({ id, code, name, quay, maxDraught, inService, description }) => (
              <Table.Tr key={id}>
                <Table.Th scope="row">
                  {code}
                  <Text size="sm">{name}</Text>
                </Table.Th>
                <Table.Td>{quay}</Table.Td>
                <Table.Td>{maxDraught} m</Table.Td>
                <Table.Td>
                  <Badge variant="outline" tt="none" className={inService ? 'status teal' : 'status gray'}>
                    {inService ? 'in service' : 'closed'}
                  </Badge>
                </Table.Td>
                <Table.Td>{description}</Table.Td>
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      </Table.ScrollContainer>
    </Stack>
  );
};
