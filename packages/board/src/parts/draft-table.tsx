import type { BoardData } from '@gribo/cli';
import { Badge, Checkbox, MultiSelect, NativeSelect, ScrollArea, Table, TextInput } from '@mantine/core';
import { type Choice, type Choices, type DraftLine, draftLines, nameAt } from './draft-state.js';

interface DraftTableProps {
  readonly data: BoardData;
  readonly entity: string;
  readonly choices: Choices;
  readonly choose: (choices: Choices) => void;
}

/** How a link may be taken. */
const WAYS = {
  one: [
    { value: '', label: 'left out' },
    { value: 'nest', label: 'nested' },
    { value: 'flat', label: 'flat' },
  ],
  many: [
    { value: '', label: 'left out' },
    { value: 'nest', label: 'nested' },
    { value: 'count', label: 'counted' },
  ],
} as const;

/** The last parts of the endpoints' names: `list`, `read`. */
const placesOf = (data: BoardData): readonly string[] => [
  ...new Set(
    data.endpoints.filter(({ sends }) => sends !== null).map(({ name }) => name.split('.').at(-1) ?? name),
  ),
];

const Line = ({
  line,
  data,
  choices,
  choose,
}: Omit<DraftTableProps, 'entity'> & { readonly line: DraftLine }) => {
  const { way, label, depth, kind, sealed, link } = line;
  const choice = choices[way];
  const set = (how: Choice['how'] | ''): void => {
    const { [way]: _gone, ...rest } = choices;
    if (how === '') choose(rest);
    else
      choose({
        ...rest,
        [way]: { name: nameAt(choices, way), audiences: [], endpoints: [], ...choice, how },
      });
  };
  const change = (part: Partial<Choice>): void => {
    if (choice !== undefined) choose({ ...choices, [way]: { ...choice, ...part } });
  };
  const isMember = choice !== undefined && choice.how !== 'flat';
  return (
    <Table.Tr>
      <Table.Th scope="row" style={{ paddingLeft: 8 + depth * 18 }}>
        {link === null ? (
          <Checkbox
            label={label}
            checked={choice !== undefined}
            onChange={(event) => set(event.currentTarget.checked ? 'column' : '')}
          />
        ) : (
          <NativeSelect
            size="xs"
            label={label}
            value={choice?.how ?? ''}
            data={[...(link.isMany ? WAYS.many : WAYS.one)]}
            onChange={(event) => set(event.currentTarget.value as Choice['how'] | '')}
          />
        )}
      </Table.Th>
      <Table.Td>
        {sealed === null ? (
          <span className="kind">{kind}</span>
        ) : (
          <Badge variant="outline" tt="none" size="sm" className="seal">
            {sealed}
          </Badge>
        )}
      </Table.Td>
      <Table.Td>
        {isMember ? (
          <TextInput
            size="xs"
            aria-label={`${way} is called`}
            value={choice.name}
            onChange={(event) => change({ name: event.currentTarget.value })}
          />
        ) : null}
      </Table.Td>
      <Table.Td>
        {isMember ? (
          <MultiSelect
            size="xs"
            aria-label={`${way} is for`}
            placeholder={choice.audiences.length > 0 ? '' : sealed === null ? 'everybody' : 'for whom?'}
            data={[...data.audiences]}
            value={[...choice.audiences]}
            onChange={(audiences) => change({ audiences })}
          />
        ) : null}
      </Table.Td>
      <Table.Td>
        {isMember ? (
          <MultiSelect
            size="xs"
            aria-label={`${way} is at`}
            placeholder={choice.endpoints.length > 0 ? '' : 'everywhere'}
            data={[...placesOf(data)]}
            value={[...choice.endpoints]}
            onChange={(endpoints) => change({ endpoints })}
          />
        ) : null}
      </Table.Td>
    </Table.Tr>
  );
};

/** Columns and links, to be taken, called, and given to some. */
export const DraftTable = ({ data, entity, choices, choose }: DraftTableProps) => (
  <ScrollArea type="auto" viewportProps={{ tabIndex: 0, 'aria-label': 'What may be sent' }}>
    <Table verticalSpacing={4} horizontalSpacing={8} data-testid="draft" className="draft">
      <Table.Thead>
        <Table.Tr>
          <Table.Th scope="col">Stored</Table.Th>
          <Table.Th scope="col">Kind</Table.Th>
          <Table.Th scope="col">Called</Table.Th>
          <Table.Th scope="col">For</Table.Th>
          <Table.Th scope="col">At</Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {draftLines(data.model, entity, choices).map((line) => (
          <Line key={line.way} {...{ line, data, choices, choose }} />
        ))}
      </Table.Tbody>
    </Table>
  </ScrollArea>
);
