import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { type Diagnostic, forceLinting, linter, lintGutter } from '@codemirror/lint';
import type { Extension } from '@codemirror/state';
import { EditorView, hoverTooltip, type Tooltip } from '@codemirror/view';
import type { Compiler } from './compiler.js';

/** So long after the last key, the compiler is asked what is wrong. */
const PAUSE = 400;

/** What the editor calls the compiler's kinds of things: it has an icon for each. */
const ICONS: Readonly<Record<string, string>> = {
  method: 'method',
  function: 'function',
  'local function': 'function',
  property: 'property',
  getter: 'property',
  const: 'constant',
  let: 'variable',
  var: 'variable',
  parameter: 'variable',
  alias: 'variable',
  keyword: 'keyword',
  interface: 'interface',
  type: 'type',
  class: 'class',
  string: 'text',
};

const mistakesIn = async (compiler: Compiler, view: EditorView): Promise<readonly Diagnostic[]> => {
  // Who only reads does not load a compiler: it comes when the editor is entered.
  if (!compiler.isLoaded && !view.hasFocus) return [];
  const found = (await compiler.ask(view.state.doc.toString(), { kind: 'mistakes' })) ?? [];
  const end = view.state.doc.length;
  // What was typed meanwhile may have made the text shorter.
  return found
    .filter(({ from }) => from <= end)
    .map(({ from, to, isError, message }) => ({
      from,
      to: Math.min(to, end),
      severity: isError ? 'error' : 'warning',
      message,
    }));
};

const completionsAt = async (
  compiler: Compiler,
  context: CompletionContext,
): Promise<CompletionResult | null> => {
  const before = context.matchBefore(/[\w$.'"]$/);
  if (before === null && !context.explicit) return null;
  const source = context.state.doc.toString();
  const found = await compiler.ask(source, { kind: 'completions', at: context.pos });
  if (found === null || found.options.length === 0) return null;
  return {
    from: found.from,
    options: found.options.map(({ label, kind }) => ({ label, type: ICONS[kind] ?? 'variable' })),
    validFor: /^[\w$]*$/,
  };
};

const hoverAt = async (compiler: Compiler, view: EditorView, pos: number): Promise<Tooltip | null> => {
  const found = await compiler.ask(view.state.doc.toString(), { kind: 'hover', at: pos });
  if (found === null) return null;
  return {
    pos: found.from,
    end: found.to,
    create: () => {
      const dom = document.createElement('div');
      dom.className = 'hover';
      const type = document.createElement('pre');
      type.textContent = found.type;
      dom.append(type);
      if (found.about !== '') {
        const about = document.createElement('p');
        about.textContent = found.about;
        dom.append(about);
      }
      return { dom };
    },
  };
};

/** Mistakes, hovers and completions in the editor, as in one's own. */
export const typed = (compiler: Compiler): Extension => [
  lintGutter(),
  linter((view) => mistakesIn(compiler, view), { delay: PAUSE }),
  autocompletion({ override: [(context) => completionsAt(compiler, context)] }),
  EditorView.domEventHandlers({
    focus: (_event, view) => {
      if (!compiler.isLoaded) forceLinting(view);
    },
  }),
  hoverTooltip((view, pos) => hoverAt(compiler, view, pos)),
];
