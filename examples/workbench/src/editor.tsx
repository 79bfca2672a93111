import { javascript } from '@codemirror/lang-javascript';
import { basicSetup, EditorView } from 'codemirror';
import { useEffect, useRef } from 'react';
import { Compiler } from './compiler/compiler.js';
import { typed } from './compiler/extensions.js';

interface EditorProps {
  /** The text to begin with; another one replaces what was typed. */
  readonly start: string;
  readonly changed: (text: string) => void;
}

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '13px', backgroundColor: '#fff' },
  '.cm-scroller': { fontFamily: '"DejaVu Sans Mono", ui-monospace, monospace', overflow: 'auto' },
});

/** An editor for TypeScript. Escape, then Tab, leaves it by keyboard. */
export const Editor = ({ start, changed }: EditorProps) => {
  const place = useRef<HTMLDivElement>(null);
  const tell = useRef(changed);
  tell.current = changed;
  useEffect(() => {
    if (place.current === null) return;
    const compiler = new Compiler();
    const view = new EditorView({
      doc: start,
      parent: place.current,
      extensions: [
        basicSetup,
        javascript({ typescript: true }),
        typed(compiler),
        look,
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': 'Shapes, as TypeScript' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) tell.current(update.state.doc.toString());
        }),
      ],
    });
    // What scrolls must be reached by keyboard.
    view.scrollDOM.tabIndex = 0;
    return () => {
      view.destroy();
      compiler.end();
    };
  }, [start]);
  return <div ref={place} className="editor" />;
};
