import { Alert, Button, Group, NativeSelect, Text, Title } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { transform } from 'sucrase';
import { Editor } from './editor.js';
import { Output } from './output.js';
import type { Made, Result } from './result.js';
import { Sandbox } from './sandbox.js';
import { packed, unpacked } from './share.js';
import { STARTS, startIn } from './starts.js';

const ENDPOINTS = ['no endpoint', 'list', 'read'];
const AUDIENCES = ['nobody', 'public', 'agent', 'harbourMaster'];

/** So long after the last key, an edit is run. */
const PAUSE = 250;

/** What somebody shared: it is shown, and run when its reader says so. */
const SHARED = unpacked(window.location.hash);

/** The problem that the address names, or the first. */
const NAMED = startIn(window.location.hash) ?? STARTS[0];

const FIRST = SHARED ?? NAMED?.source ?? '';

/** TypeScript as JavaScript; what is no TypeScript is told as the mistake that it is. */
const compiled = (source: string): string =>
  transform(source, { transforms: ['typescript', 'imports'] }).code;

/** Runs an edit in the sandbox. */
const runEdit = async (
  sandbox: Sandbox,
  source: string,
  shown: { readonly shape: string; readonly audience: string; readonly endpoint: string },
): Promise<Result> => {
  try {
    return await sandbox.run({
      code: compiled(source),
      shape: shown.shape,
      audience: shown.audience === 'nobody' ? '' : shown.audience,
      endpoint: shown.endpoint === 'no endpoint' ? '' : shown.endpoint,
    });
  } catch (error) {
    return { id: 0, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
};

/** Shapes as text on the left; the response, its schema, its load plan and its size on the right. */
export const App = () => {
  const sandbox = useRef<Sandbox | null>(null);
  const [start, setStart] = useState(FIRST);
  const [source, setSource] = useState(FIRST);
  const [shape, setShape] = useState('');
  const [audience, setAudience] = useState('public');
  const [endpoint, setEndpoint] = useState('no endpoint');
  const [made, setMade] = useState<Made | null>(null);
  const [message, setMessage] = useState('');
  const [shared, setShared] = useState('');
  const [mayRun, setMayRun] = useState(SHARED === null);

  useEffect(() => {
    const frame = new Sandbox();
    sandbox.current = frame;
    return () => frame.end();
  }, []);

  useEffect(() => {
    let isCurrent = true;
    const timer = setTimeout(async () => {
      if (sandbox.current === null || !mayRun) return;
      const result = await runEdit(sandbox.current, source, { shape, audience, endpoint });
      if (!isCurrent) return;
      setMessage(result.ok ? '' : result.message);
      if (result.ok) setMade(result.made);
    }, PAUSE);
    return () => {
      isCurrent = false;
      clearTimeout(timer);
    };
  }, [source, shape, audience, endpoint, mayRun]);

  const share = async (): Promise<void> => {
    window.history.replaceState(null, '', `#${packed(source)}`);
    try {
      await navigator.clipboard.writeText(window.location.href);
      setShared('The address is copied.');
    } catch {
      setShared('The address is in the address bar.');
    }
  };

  return (
    <div className="bench">
      <header>
        <Group justify="space-between" align="end" className="head">
          <div>
            <Title order={1} size="h3">
              Gribo workbench
            </Title>
            <Text size="sm">
              Edit the shapes; the harbour’s sample rows go through them as you type. All of it runs in this
              page.
            </Text>
          </div>
          <Group align="end">
            <NativeSelect
              label="Begin with"
              defaultValue={SHARED === null ? NAMED?.name : ''}
              onChange={(event) => {
                const chosen = STARTS.find(({ name }) => name === event.currentTarget.value);
                if (chosen === undefined) return;
                window.history.replaceState(null, '', `#problem=${chosen.id}`);
                setMayRun(true);
                setStart(chosen.source);
                setSource(chosen.source);
                setShape('');
              }}
              data={[
                { value: '', label: 'choose…' },
                ...STARTS.map(({ name }) => ({ value: name, label: name })),
              ]}
            />
            <NativeSelect
              label="Show"
              value={made?.shape ?? ''}
              onChange={(event) => setShape(event.currentTarget.value)}
              data={[...(made?.shapes ?? [])]}
            />
            <NativeSelect
              label="For"
              value={audience}
              onChange={(event) => setAudience(event.currentTarget.value)}
              data={AUDIENCES}
            />
            <NativeSelect
              label="At"
              value={endpoint}
              onChange={(event) => setEndpoint(event.currentTarget.value)}
              data={ENDPOINTS}
            />
            <Button onClick={share}>Share</Button>
          </Group>
        </Group>
        <Text size="sm" role="status" className="shared">
          {shared}
        </Text>
      </header>
      {mayRun ? null : (
        <Alert className="asked" variant="default" title="Somebody shared this edit">
          <Group justify="space-between">
            <Text size="sm">
              Read it first. It runs in a frame that reaches neither this page nor any server.
            </Text>
            <Button onClick={() => setMayRun(true)}>Run it</Button>
          </Group>
        </Alert>
      )}
      <main>
        <Editor start={start} changed={setSource} />
        {mayRun ? (
          <Output made={made} message={message} />
        ) : (
          <Text size="sm" className="waiting">
            Nothing has run yet.
          </Text>
        )}
      </main>
    </div>
  );
};
