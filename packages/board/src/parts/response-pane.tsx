import { Alert, Badge, Group, Stack, Table, Text } from '@mantine/core';
import { type ApiResponse, laidOut, languageOf } from './ask-api.js';
import { Code } from './code.js';
import type { Issues } from './form-state.js';

const statusColour = (status: number): string => (status < 300 ? 'teal' : status < 500 ? 'orange' : 'red');

/** Headers that say something about the API. */
const TELLING = [
  'content-type',
  'content-disposition',
  'etag',
  'location',
  'link',
  'cache-control',
  'vary',
  'allow',
  'retry-after',
  'deprecation',
  'sunset',
];

/** What came back: its status, what is wrong, its body and the headers that say something. */
export const ResponsePane = ({
  response,
  issues,
}: {
  readonly response: ApiResponse;
  readonly issues: Issues;
}) => {
  const type = response.headers.find(([name]) => name === 'content-type')?.[1] ?? '';
  const language = languageOf(type);
  return (
    <Stack gap="xs" aria-live="polite" data-testid="response">
      <Group gap="xs">
        <Badge variant="light" color={statusColour(response.status)} size="lg">
          {response.status}
        </Badge>
        <Text size="sm">
          {response.bytes.toLocaleString('en')} bytes in {response.milliseconds.toFixed(0)} ms
        </Text>
      </Group>
      {Object.entries(issues).map(([path, message]) => (
        <Alert key={path} color="orange" p="xs">
          <b>{path}</b> {message}
        </Alert>
      ))}
      {response.picture === null ? null : (
        <img src={response.picture} alt="What was sent" style={{ width: 'auto', maxWidth: '100%' }} />
      )}
      {response.picture !== null ? null : response.text === '' ? (
        <Text size="sm">It has no body.</Text>
      ) : (
        <Code
          text={language === 'json' ? laidOut(response.text) : response.text}
          language={language}
          label="The response"
        />
      )}
      <Table aria-label="Headers" verticalSpacing={2}>
        <Table.Tbody>
          {response.headers
            .filter(([name]) => TELLING.includes(name))
            .map(([name, value]) => (
              <Table.Tr key={name}>
                <Table.Th scope="row" className="header-name">
                  {name}
                </Table.Th>
                <Table.Td className="wrap">{value}</Table.Td>
              </Table.Tr>
            ))}
        </Table.Tbody>
      </Table>
    </Stack>
  );
};
