import { Fieldset, NativeSelect, SimpleGrid, Textarea, TextInput } from '@mantine/core';
import type { Contract, ContractInputMember, ContractValue } from 'gribo';
import { type Filled, type Issues, insideOf } from './form-state.js';

interface FormProps {
  readonly members: readonly ContractInputMember[];
  readonly contract: Contract;
  readonly filled: Filled;
  readonly issues: Issues;
  readonly fill: (path: string, text: string) => void;
  readonly above?: string;
}

const between = (min: number | string | undefined, max: number | string | undefined): string => {
  if (min !== undefined && max !== undefined) return `${min} to ${max}`;
  if (min !== undefined) return `at least ${min}`;
  return max === undefined ? '' : `at most ${max}`;
};

const KIND_WORDS: Readonly<Partial<Record<ContractValue['kind'], string>>> = {
  bigint: 'a whole number',
  date: 'a day, YYYY-MM-DD',
  time: 'a time, HH:MM:SS',
  duration: 'a duration, PT6H30M',
  timestamp: 'a moment, 2026-03-01T06:30:00Z',
  uuid: 'a UUID',
  bytes: 'base64',
  json: 'JSON',
};

/** What may be filled in, in a few words: limits, form, and whether it may be left out. */
const hintOf = ({ type, when, preset, nullable, about }: ContractInputMember): string => {
  const limits =
    type.kind === 'text'
      ? [
          between(type.min, type.max) === '' ? '' : `${between(type.min, type.max)} letters`,
          type.pattern ?? '',
        ]
      : type.kind === 'integer' || type.kind === 'real' || type.kind === 'bigint'
        ? [between(type.min, type.max)]
        : type.kind === 'decimal'
          ? [
              between(type.min, type.max),
              `${type.precision - type.scale} digits before the point, ${type.scale} after`,
            ]
          : [];
  const kind =
    type.kind === 'list'
      ? 'a JSON list'
      : type.kind in KIND_WORDS
        ? (KIND_WORDS[type.kind as ContractValue['kind']] ?? '')
        : '';
  const absent =
    when === 'preset'
      ? `left out: ${JSON.stringify(preset)}`
      : when === 'optional'
        ? 'may be left out'
        : nullable === true
          ? 'empty: null'
          : '';
  return [about ?? '', kind, ...limits, absent].filter((part) => part !== '').join(' · ');
};

const Field = ({
  member,
  path,
  filled,
  issues,
  fill,
}: Omit<FormProps, 'members' | 'above' | 'contract'> & {
  readonly member: ContractInputMember;
  readonly path: string;
}) => {
  const { name, type, when, nullable } = member;
  const rest = {
    label: name,
    description: hintOf(member),
    error: issues[path],
    value: filled[path] ?? '',
    withAsterisk: when === undefined && nullable !== true,
  };
  if (type.kind === 'oneOf' || type.kind === 'bool') {
    const choices = type.kind === 'oneOf' ? type.choices : ['true', 'false'];
    return (
      <NativeSelect
        {...rest}
        data={['', ...choices]}
        onChange={(event) => fill(path, event.currentTarget.value)}
      />
    );
  }
  if (type.kind === 'list' || type.kind === 'json' || type.kind === 'array') {
    return (
      <Textarea {...rest} autosize minRows={2} onChange={(event) => fill(path, event.currentTarget.value)} />
    );
  }
  const isNumber = type.kind === 'integer' || type.kind === 'real';
  return (
    <TextInput
      {...rest}
      inputMode={isNumber ? 'decimal' : 'text'}
      onChange={(event) => fill(path, event.currentTarget.value)}
    />
  );
};

/** A form made from an input: its limits and choices included, groups as groups. */
export const InputForm = ({ members, contract, filled, issues, fill, above = '' }: FormProps) => (
  <SimpleGrid cols={{ base: 1, sm: 2 }} spacing="sm">
    {members.map((member) => {
      const path = above + member.name;
      const inside = insideOf(member.type, contract);
      if (inside === null) return <Field key={path} {...{ member, path, filled, issues, fill }} />;
      return (
        <Fieldset key={path} legend={member.name} className="group">
          <InputForm members={inside} {...{ contract, filled, issues, fill }} above={`${path}.`} />
        </Fieldset>
      );
    })}
  </SimpleGrid>
);
