import highlight from 'highlight.js/lib/core';
import json from 'highlight.js/lib/languages/json';
import xml from 'highlight.js/lib/languages/xml';
import { useMemo } from 'react';

highlight.registerLanguage('json', json);
highlight.registerLanguage('xml', xml);

/** Longer texts are shown plainly: painting them takes longer than reading them. */
const MOST = 60_000;

interface CodeProps {
  readonly text: string;
  readonly language: 'json' | 'xml' | 'text';
  readonly label: string;
}

/** Text with its colours; the highlighter escapes what it is given. */
export const Code = ({ text, language, label }: CodeProps) => {
  const html = useMemo(
    () => (language === 'text' || text.length > MOST ? null : highlight.highlight(text, { language }).value),
    [text, language],
  );
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard
    <section className="code" aria-label={label} tabIndex={0}>
      {html === null ? (
        <pre>{text}</pre>
      ) : (
        // biome-ignore lint/security/noDangerouslySetInnerHtml: made by the highlighter, which escapes
        <pre dangerouslySetInnerHTML={{ __html: html }} />
      )}
    </section>
  );
};
