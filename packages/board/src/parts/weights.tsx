import { Progress, Table, Text } from '@mantine/core';
import type { Weight } from 'gribo';

const byWeight = (weight: Weight): readonly Weight[] => [...weight.members].sort((a, b) => b.bytes - a.bytes);

/** The bytes of each member, as bars: the heaviest first. */
export const Weights = ({ weight }: { readonly weight: Weight }) => (
  <Table aria-label="Bytes by member" verticalSpacing={2} className="weights">
    <Table.Tbody>
      {byWeight(weight).map(({ name, bytes }) => {
        const share = weight.bytes === 0 ? 0 : (100 * bytes) / weight.bytes;
        return (
          <Table.Tr key={name}>
            <Table.Th scope="row">{name}</Table.Th>
            <Table.Td ta="right">
              <Text size="xs" component="span">
                {bytes.toLocaleString('en')}
              </Text>
            </Table.Td>
            <Table.Td w="55%">
              <Progress value={share} aria-label={`${name}: ${Math.round(share)} %`} />
            </Table.Td>
          </Table.Tr>
        );
      })}
    </Table.Tbody>
  </Table>
);
