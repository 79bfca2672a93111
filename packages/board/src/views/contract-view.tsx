import type { BoardComparison } from '@gribo/cli';
import { Alert, Anchor, Badge, Group, Stack, Table, Text, Title } from '@mantine/core';
import type { Difference, Review, Severity } from 'gribo';
import type { ViewProps } from '../state/view-props.js';

const SEVERITY: Readonly<Record<Severity, string>> = { error: 'red', warning: 'orange', note: 'blue' };
const EFFECT: Readonly<Record<Difference['effect'], string>> = {
  breaking: 'red',
  risky: 'orange',
  safe: 'teal',
};

const Findings = ({ review }: { readonly review: Review }) => (
  <Stack gap="xs">
    <Title order={2} size="h5">
      Findings
    </Title>
    {review.findings.length === 0 ? <Alert color="teal">Nothing is risky or undecided.</Alert> : null}
    <Table aria-label="Findings" className="rows">
      <Table.Tbody>
        {review.findings.map(({ severity, code, place, message, advice }) => (
          <Table.Tr key={`${code} ${place}`}>
            <Table.Td>
              <Badge variant="light" color={SEVERITY[severity]} tt="none">
                {severity}
              </Badge>
            </Table.Td>
            <Table.Th scope="row">
              {place}
              <Text size="xs" c="dimmed">
                {code}
              </Text>
            </Table.Th>
            <Table.Td>
              {message}
              <Text size="xs" c="dimmed">
                {advice}
              </Text>
            </Table.Td>
          </Table.Tr>
        ))}
      </Table.Tbody>
    </Table>
    {review.accepted.length === 0 ? null : (
      <details>
        <summary>{review.accepted.length} accepted</summary>
        {review.accepted.map(({ code, place, reason }) => (
          <Text size="sm" key={`${code} ${place}`}>
            <b>{place}</b> {code}: {reason}
          </Text>
        ))}
      </details>
    )}
  </Stack>
);

const reachWords = ({ reach }: Difference): string => {
  const names = reach.map(({ endpoint }) => endpoint);
  return names.length <= 3
    ? names.join(', ')
    : `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`;
};

const Differences = ({ comparison }: { readonly comparison: BoardComparison | null }) => {
  if (comparison === null) {
    return (
      <Alert title="There is no contract to compare with">
        gribo build writes one; keep it, and what changes since is shown here.
      </Alert>
    );
  }
  const { differences, step, suggested, announced, before } = comparison;
  if (step === null)
    return <Alert color="teal">Nothing differs from the contract of the last build ({before}).</Alert>;
  return (
    <Stack gap="xs">
      <Alert color={announced ? 'teal' : 'orange'}>
        A {step} step from {before}: it asks for {suggested ?? 'another version'}
        {announced ? ', and the API says so.' : '; the API does not say so yet.'}
      </Alert>
      <Table aria-label="Differences" className="rows">
        <Table.Tbody>
          {differences.map((difference) => (
            <Table.Tr
              key={`${difference.side} ${difference.code} ${difference.path} ${reachWords(difference)} ${difference.message}`}
            >
              <Table.Td>
                <Badge variant="light" color={EFFECT[difference.effect]} tt="none">
                  {difference.effect}
                </Badge>
              </Table.Td>
              <Table.Th scope="row">
                {difference.path === '' ? difference.side : difference.path}
                <Text size="xs" c="dimmed">
                  {difference.code}
                </Text>
              </Table.Th>
              <Table.Td>
                {difference.message}
                <Text size="xs" c="dimmed">
                  {reachWords(difference)}
                </Text>
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </Stack>
  );
};

/** What the review found, what differs from the last contract, and the document to take along. */
export const ContractView = ({ data }: ViewProps) => {
  // A copy is of the newest alone.
  const inIt = data.isLive && data.edition !== null ? `?edition=${data.edition.name}` : '';
  return (
    <Stack gap="xl">
      <Group>
        <Anchor href={`./openapi.json${inIt}`} download="openapi.json">
          OpenAPI document, JSON
        </Anchor>
        <Anchor href={`./openapi.yaml${inIt}`} download="openapi.yaml">
          OpenAPI document, YAML
        </Anchor>
      </Group>
      <Stack gap="xs">
        <Title order={2} size="h5">
          Since the last contract
        </Title>
        <Differences comparison={data.comparison} />
      </Stack>
      <Findings review={data.review} />
    </Stack>
  );
};
