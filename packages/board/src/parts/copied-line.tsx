import { Button, CopyButton, Group, Text } from '@mantine/core';

/** A line of text that can be taken along. */
export const CopiedLine = ({ what, text }: { readonly what: string; readonly text: string }) => (
  <div>
    <Group gap="xs" wrap="nowrap" align="center">
      <Text size="xs" c="dimmed">
        {what}
      </Text>
      <CopyButton value={text}>
        {({ copied, copy }) => (
          <Button size="compact-xs" variant="default" onClick={copy} aria-label={`Copy: ${what}`}>
            {copied ? 'Copied' : 'Copy'}
          </Button>
        )}
      </CopyButton>
    </Group>
    {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard */}
    <section className="code line" aria-label={what} tabIndex={0}>
      <pre>{text}</pre>
    </section>
  </div>
);
