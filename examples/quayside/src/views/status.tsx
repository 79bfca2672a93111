import { Alert, Badge, Skeleton, Stack } from '@mantine/core';
import type { Loaded } from '../use-loaded.js';

const COLOURS: Readonly<Record<string, string>> = {
  announced: 'blue',
  confirmed: 'indigo',
  berthed: 'teal',
  sailed: 'gray',
  cancelled: 'red',
};

/** Where a port call stands. */
export const Status = ({ status }: { readonly status: string }) => (
  <Badge variant="outline" className={`status ${COLOURS[status] ?? 'gray'}`} tt="none">
    {status}
  </Badge>
);

/** What stands for a list while it is loaded, or where it could not be; nothing once it is there. */
export const Waiting = ({ loaded }: { readonly loaded: Loaded<unknown> }) => {
  if (loaded.state === 'loaded') return null;
  if (loaded.state === 'failed') {
    return (
      <Alert color="red" role="alert" title="This could not be loaded">
        {loaded.message}
      </Alert>
    );
  }
  return (
    <Stack role="status" aria-label="Loading">
      <Skeleton height={56} />
      <Skeleton height={56} />
      <Skeleton height={56} />
    </Stack>
  );
};

const moment = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
});

/** A moment in words. */
export const momentText = (text: string | null | undefined): string =>
  text == null ? '–' : moment.format(new Date(text));
