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

/** Some of the names that there are; what it means that none is chosen stands in its place. */
const Some = ({
  label,
  hint,
  known,
  chosen,
  choose,
}: {
  readonly label: string;
  readonly hint: string;
  readonly known: readonly string[];
  readonly chosen: readonly string[];
  readonly choose: (chosen: readonly string[]) => void;
}) => (
  <MultiSelect
    size="xs"
    aria-label={label}
    placeholder={chosen.length > 0 ? '' : hint}
    data={[...known]}
    value={[...chosen]}
    onChange={choose}
  />
);

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
          <Some
            label={`${way} is for`}
            hint={sealed === null ? 'everybody' : 'for whom?'}
            known={data.audiences}
            chosen={choice.audiences}
            choose={(audiences) => change({ audiences })}
          />
        ) : null}
      </Table.Td>
      <Table.Td>
        {isMember ? (
          <Some
            label={`${way} is at`}
            hint="everywhere"
            known={placesOf(data)}
            chosen={choice.endpoints}
            choose={(endpoints) => change({ endpoints })}
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
