import type { BoardFact } from '@gribo/cli';
import { Accordion, SimpleGrid, TextInput } from '@mantine/core';
import type { Filled } from './form-state.js';

/** What a request is given besides what it asks: facts about the caller, and what is pretended. */
export interface Wishes {
  readonly facts: Filled;
  readonly pretend: Filled;
}

export const NO_WISHES: Wishes = { facts: {}, pretend: {} };

const PRETENDED = [
  ['wait', 'milliseconds first'],
  ['status', '400 to 599'],
  ['cut', 'after bytes'],
  ['pace', 'bytes in a second'],
] as const;

interface WishesProps {
  readonly known: readonly BoardFact[];
  readonly wishes: Wishes;
  readonly wish: (wishes: Wishes) => void;
}

/** Who asks, fact by fact; and late, slow and failing answers. */
export const WishFields = ({ known, wishes, wish }: WishesProps) => (
  <Accordion variant="contained" multiple chevronPosition="left">
    {known.length === 0 ? null : (
      <Accordion.Item value="facts">
        <Accordion.Control>Facts about the caller</Accordion.Control>
        <Accordion.Panel>
          <SimpleGrid
            cols={{ base: 2, sm: 4 }}
            spacing="xs"
            verticalSpacing="xs"
            style={{ alignItems: 'end' }}
          >
            {known.map(({ name, kind, nullable }) => (
              <TextInput
                size="xs"
                key={name}
                label={`caller.${name}`}
                description={nullable ? `${kind}, or null` : kind}
                value={wishes.facts[name] ?? ''}
                onChange={({ currentTarget: { value } }) =>
                  wish({ ...wishes, facts: { ...wishes.facts, [name]: value } })
                }
              />
            ))}
          </SimpleGrid>
        </Accordion.Panel>
      </Accordion.Item>
    )}
    <Accordion.Item value="pretend">
      <Accordion.Control>Late, slow or failing</Accordion.Control>
      <Accordion.Panel>
        <SimpleGrid cols={{ base: 2, sm: 4 }} spacing="xs" verticalSpacing="xs" style={{ alignItems: 'end' }}>
          {PRETENDED.map(([name, hint]) => (
            <TextInput
              size="xs"
              key={name}
              label={name}
              description={hint}
              inputMode="numeric"
              value={wishes.pretend[name] ?? ''}
              onChange={({ currentTarget: { value } }) =>
                wish({ ...wishes, pretend: { ...wishes.pretend, [name]: value } })
              }
            />
          ))}
        </SimpleGrid>
      </Accordion.Panel>
    </Accordion.Item>
  </Accordion>
);

/** The headers that say it. */
export const wishHeaders = ({ facts, pretend }: Wishes): Readonly<Record<string, string>> => {
  const given = (filled: Filled): readonly (readonly [string, string])[] =>
    Object.entries(filled).filter(([, text]) => text.trim() !== '');
  const told = given(facts);
  const pretended = given(pretend).map(([name, text]) => `${name}=${text.trim()}`);
  return {
    ...(told.length === 0
      ? {}
      : { 'x-facts': new URLSearchParams(told.map(([name, text]) => [name, text])).toString() }),
    ...(pretended.length === 0 ? {} : { pretend: pretended.join(', ') }),
  };
};
