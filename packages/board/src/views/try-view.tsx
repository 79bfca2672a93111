import type { BoardEndpoint } from '@gribo/cli';
import {
  Alert,
  Button,
  FileInput,
  Group,
  NativeSelect,
  SegmentedControl,
  SimpleGrid,
  Stack,
  Text,
  Textarea,
  TextInput,
  Title,
} from '@mantine/core';
import { useState } from 'react';
import { type ApiResponse, type AskedApi, askApi, inEdition } from '../parts/ask-api.js';
import { CopiedLine } from '../parts/copied-line.js';
import { bodyOf, type Filled, issuesOf } from '../parts/form-state.js';
import { InputForm } from '../parts/input-form.js';
import { QueryFields } from '../parts/query-fields.js';
import { NOTHING_ASKED, queryText } from '../parts/query-state.js';
import { clientLine, curlLine } from '../parts/request-lines.js';
import { ResponsePane } from '../parts/response-pane.js';
import { NO_WISHES, WishFields, wishHeaders } from '../parts/wishes.js';
import { toEndpoint, usePlace } from '../state/use-place.js';
import type { ViewProps } from '../state/view-props.js';

const parametersOf = (path: string): readonly string[] =>
  [...path.matchAll(/\{([^}]*)\}/g)].map(([, name = '']) => name);

const filledPath = (endpoint: BoardEndpoint, values: Filled, query: string): string => {
  const path = endpoint.path.replaceAll(/\{([^}]*)\}/g, (_whole, name: string) =>
    encodeURIComponent(values[name] ?? ''),
  );
  return query === '' ? path : `${path}?${query}`;
};

/** A form of the files, and of what is told with them: what is no text is JSON. */
const formOf = (told: object, files: Readonly<Record<string, File | null>>): FormData => {
  const form = new FormData();
  for (const [name, value] of Object.entries(told))
    if (value !== null) form.append(name, typeof value === 'object' ? JSON.stringify(value) : String(value));
  for (const [name, file] of Object.entries(files)) if (file !== null) form.append(name, file);
  return form;
};

/** What a body is in a program: its value, or the text where it is none. */
const sentValue = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
};

/** One request to one endpoint, being filled in. */
const Request = ({ data, audience, caller, endpoint }: ViewProps & { readonly endpoint: BoardEndpoint }) => {
  const [place, go] = usePlace();
  const [values, setValues] = useState<Filled>({});
  const [asked, setAsked] = useState(NOTHING_ASKED);
  const [wishes, setWishes] = useState(NO_WISHES);
  const [filled, setFilled] = useState<Filled>({});
  const [files, setFiles] = useState<Readonly<Record<string, File | null>>>({});
  const [raw, setRaw] = useState<string | null>(null);
  const [response, setResponse] = useState<ApiResponse | null>(null);
  const [failure, setFailure] = useState('');
  const [isAsking, setAsking] = useState(false);
  const input = endpoint.takes?.find(({ audiences }) => audiences.includes(audience))?.input;
  const members = endpoint.takes === null ? null : (data.contract.inputs[input ?? '']?.members ?? []);
  // Of a list, the form is the first row.
  const issues =
    response === null || response.status < 400 ? {} : issuesOf(response.text, endpoint.takesMany ? '/0' : '');
  const filledBody = members === null ? null : bodyOf(members, filled, data.contract);
  const formBody =
    filledBody === null ? '' : JSON.stringify(endpoint.takesMany ? [filledBody] : filledBody, null, 2);
  const accept =
    place['format'] === undefined
      ? 'application/json'
      : (data.formats.find(({ name }) => name === place['format'])?.mediaType ?? 'application/json');
  const type = endpoint.method === 'PATCH' ? 'application/merge-patch+json' : 'application/json';
  const described = data.contract.endpoints.find(({ name }) => name === endpoint.name);
  const path = filledPath(endpoint, values, queryText(asked));
  const text = members === null ? {} : { body: { type, text: raw ?? formBody } };
  const body = endpoint.files.length === 0 ? text : { body: formOf(filledBody ?? {}, files) };
  const headers = wishHeaders(wishes);
  const plain: AskedApi = { method: endpoint.method, path, audience, caller, accept, headers, ...body };
  const request = inEdition(data, plain);
  const send = async (): Promise<void> => {
    setAsking(true);
    setFailure('');
    try {
      setResponse(await askApi(request));
    } catch (error) {
      setFailure(error instanceof Error ? error.message : String(error));
    } finally {
      setAsking(false);
    }
  };
  return (
    <SimpleGrid cols={{ base: 1, md: 2 }} spacing="lg">
      <Stack
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <Group align="end">
          {parametersOf(endpoint.path).map((name) => (
            <TextInput
              key={name}
              label={name}
              value={values[name] ?? ''}
              withAsterisk
              onChange={(event) => setValues({ ...values, [name]: event.currentTarget.value })}
            />
          ))}
          <NativeSelect
            label="Accept"
            value={data.formats.find(({ mediaType }) => mediaType === accept)?.name ?? 'json'}
            onChange={(event) => go({ format: event.currentTarget.value })}
            data={data.formats.map(({ name }) => name)}
          />
        </Group>
        {described === undefined ? null : (
          <QueryFields
            endpoint={described}
            contract={data.contract}
            audience={audience}
            asked={asked}
            ask={setAsked}
          />
        )}
        {endpoint.files.map(({ name, types, max, optional }) => (
          <FileInput
            key={name}
            label={name}
            description={`${types === undefined ? '' : `${types.join(', ')}; `}at most ${max.toLocaleString('en')} bytes`}
            placeholder="Choose a file"
            {...(types === undefined ? {} : { accept: types.join(',') })}
            withAsterisk={optional !== true}
            value={files[name] ?? null}
            error={issues[name]}
            onChange={(file) => setFiles({ ...files, [name]: file })}
          />
        ))}
        {members === null ? null : (
          <>
            <SegmentedControl
              aria-label="How the body is given"
              value={raw === null ? 'form' : 'text'}
              onChange={(way) => setRaw(way === 'text' ? formBody : null)}
              data={[
                { value: 'form', label: 'Form' },
                { value: 'text', label: 'Text' },
              ]}
            />
            {endpoint.takesMany && raw === null ? (
              <Text size="sm" c="dimmed">
                It takes a list: the form is one row of it. Say more of them as text.
              </Text>
            ) : null}
            {raw === null ? (
              <InputForm
                members={members}
                contract={data.contract}
                filled={filled}
                issues={issues}
                fill={(at, text) => setFilled((last) => ({ ...last, [at]: text }))}
              />
            ) : (
              <Textarea
                label="Body"
                value={raw}
                autosize
                minRows={8}
                className="mono"
                onChange={(event) => setRaw(event.currentTarget.value)}
              />
            )}
          </>
        )}
        <WishFields known={data.facts} wishes={wishes} wish={setWishes} />
        <Button type="submit" loading={isAsking} className="send">
          {endpoint.method} {request.path}
        </Button>
        <CopiedLine what="As a line for a shell" text={curlLine(window.location.origin, request)} />
        {described === undefined || endpoint.files.length > 0 ? null : (
          <CopiedLine
            what="With the client of gribo build"
            text={clientLine(
              described,
              audience,
              values,
              asked,
              members === null ? undefined : sentValue(raw ?? formBody),
            )}
          />
        )}
      </Stack>
      <div className="response">
        <Title order={2} size="h6" mb="xs">
          Response
        </Title>
        {failure === '' ? null : (
          <Alert color="red" role="alert" title="It could not be sent">
            {failure}
          </Alert>
        )}
        {response === null ? (
          <Text c="dimmed">Nothing was sent yet.</Text>
        ) : (
          <ResponsePane response={response} issues={raw === null ? {} : issues} />
        )}
      </div>
    </SimpleGrid>
  );
};

/** Sends requests to the running API, and shows what comes back. */
export const TryView = (props: ViewProps) => {
  const { data } = props;
  const [place, go] = usePlace();
  if (!data.isLive) {
    return <Alert title="This is a copy">There is no API behind it. gribo serve has one.</Alert>;
  }
  const endpoint = data.endpoints.find(({ name }) => name === place['endpoint']) ?? data.endpoints[0];
  if (endpoint === undefined) return <Alert title="There is nothing to try">The API has no endpoint.</Alert>;
  return (
    <Stack>
      <Group align="end">
        <NativeSelect
          label="Endpoint"
          value={endpoint.name}
          onChange={(event) => go(toEndpoint(event.currentTarget.value))}
          data={data.endpoints.map(({ name }) => name)}
        />
        <Text size="sm" c="dimmed" pb={6}>
          {endpoint.about ??
            (endpoint.audiences === null ? '' : `It answers ${endpoint.audiences.join(', ')} only.`)}
        </Text>
      </Group>
      <Request key={endpoint.name} {...props} endpoint={endpoint} />
    </Stack>
  );
};
