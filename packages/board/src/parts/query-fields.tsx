import { MultiSelect, NativeSelect, SimpleGrid, TextInput } from '@mantine/core';
import type { Contract, ContractEndpoint } from 'gribo';
import { type AskedQuery, fieldNames, type QueryField, queryFields, sortsOf } from './query-state.js';

interface QueryProps {
  readonly endpoint: ContractEndpoint;
  readonly contract: Contract;
  readonly audience: string | null;
  readonly asked: AskedQuery;
  readonly ask: (asked: AskedQuery) => void;
}

const ValueField = ({
  field,
  value,
  set,
}: {
  readonly field: QueryField;
  readonly value: string;
  readonly set: (text: string) => void;
}) => {
  const { name, type, hint, isSeveral } = field;
  const choices = type.kind === 'oneOf' ? type.choices : type.kind === 'bool' ? ['true', 'false'] : null;
  if (choices !== null && isSeveral) {
    return (
      <MultiSelect
        size="xs"
        label={name}
        description={hint}
        data={[...choices]}
        value={value === '' ? [] : value.split(',')}
        onChange={(chosen) => set(chosen.join(','))}
        clearable
      />
    );
  }
  if (choices !== null) {
    return (
      <NativeSelect
        size="xs"
        label={name}
        description={hint}
        data={['', ...choices]}
        value={value}
        onChange={(event) => set(event.currentTarget.value)}
      />
    );
  }
  return (
    <TextInput
      size="xs"
      label={name}
      description={isSeveral ? `${hint}, with commas` : hint}
      value={value}
      onChange={(event) => set(event.currentTarget.value)}
    />
  );
};

/** A field for everything that a query may ask of an endpoint. */
export const QueryFields = ({ endpoint, contract, audience, asked, ask }: QueryProps) => {
  const several = [
    ['sort', 'the order, the first decides', sortsOf(endpoint, audience)],
    ['with', 'what comes along where it is asked for', endpoint.asks],
    ['fields', 'only these members', fieldNames(endpoint, audience, contract)],
  ] as const;
  return (
    <SimpleGrid cols={{ base: 2, sm: 3 }} spacing="xs" verticalSpacing="xs" style={{ alignItems: 'start' }}>
      {queryFields(endpoint, audience).map((field) => (
        <ValueField
          key={field.name}
          field={field}
          value={asked.values[field.name] ?? ''}
          set={(text) => ask({ ...asked, values: { ...asked.values, [field.name]: text } })}
        />
      ))}
      {several.map(([name, hint, names]) =>
        names.length === 0 ? null : (
          <MultiSelect
            size="xs"
            key={name}
            label={name}
            description={hint}
            data={[...names]}
            value={[...asked[name]]}
            onChange={(chosen) => ask({ ...asked, [name]: chosen })}
            searchable
            clearable
          />
        ),
      )}
      <TextInput
        size="xs"
        label="More query"
        description="as it stands in an address"
        value={asked.more}
        onChange={(event) => ask({ ...asked, more: event.currentTarget.value })}
      />
    </SimpleGrid>
  );
};
