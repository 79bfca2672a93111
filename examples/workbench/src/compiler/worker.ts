/*
 * The compiler behind the editor, in a worker of its own: it reads the edit and runs nothing of it. It knows the
 * package's declarations, the harbour's model, and JavaScript's own library.
 */

import files from 'virtual:declarations';
import ts from '@ts-morph/common/dist/typescript.js';
import { createSystem, createVirtualTypeScriptEnvironment } from '@typescript/vfs';
import type { Answered, Answers, Asked, Completion, Hover, Mistake, Question } from './questions.js';

const EDIT = '/edit.ts';

const OPTIONS: ts.CompilerOptions = {
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  lib: ['lib.es2023.d.ts'],
  strict: true,
  noEmit: true,
  // The package's declarations were compiled already; what they say of browsers is not in the library here.
  skipLibCheck: true,
  types: [],
};

const environment = createVirtualTypeScriptEnvironment(
  createSystem(new Map(Object.entries({ ...files, [EDIT]: 'export {};' }))),
  [EDIT],
  // The same compiler, under the name of the package that brings it for pages.
  ts as never,
  OPTIONS as never,
);
const languageService = environment.languageService as unknown as ts.LanguageService;

const mistakes = (): readonly Mistake[] => {
  const found = [
    ...languageService.getSyntacticDiagnostics(EDIT),
    ...languageService.getSemanticDiagnostics(EDIT),
  ];
  return found.flatMap(({ start, length, category, messageText }): readonly Mistake[] =>
    start === undefined || length === undefined
      ? []
      : [
          {
            from: start,
            to: start + length,
            isError: category === ts.DiagnosticCategory.Error,
            message: ts.flattenDiagnosticMessageText(messageText, '\n'),
          },
        ],
  );
};

const hover = (at: number): Hover | null => {
  const info = languageService.getQuickInfoAtPosition(EDIT, at);
  if (info === undefined) return null;
  return {
    from: info.textSpan.start,
    to: info.textSpan.start + info.textSpan.length,
    type: ts.displayPartsToString(info.displayParts),
    about: ts.displayPartsToString(info.documentation),
  };
};

/** The most that are offered: more are found by typing on. */
const MOST = 200;

const completions = (source: string, at: number): Answers['completions'] => {
  const found = languageService.getCompletionsAtPosition(EDIT, at, {
    includeCompletionsForModuleExports: false,
  });
  if (found === undefined) return null;
  const [typed = ''] = /[\w$]*$/.exec(source.slice(0, at)) ?? [];
  const options = found.entries
    .filter(({ name }) => name.toLowerCase().startsWith(typed.toLowerCase()))
    .sort((one, other) => one.sortText.localeCompare(other.sortText))
    .slice(0, MOST)
    .map(({ name, kind }): Completion => ({ label: name, kind }));
  return { from: at - typed.length, options };
};

const answerTo = (source: string, question: Question): Answers[keyof Answers] => {
  switch (question.kind) {
    case 'mistakes':
      return mistakes();
    case 'hover':
      return hover(question.at);
    case 'completions':
      return completions(source, question.at);
  }
};

self.onmessage = ({ data: { id, source, question } }: MessageEvent<Asked>): void => {
  // An empty file is none to the compiler.
  environment.updateFile(EDIT, source === '' ? ' ' : source);
  const answered: Answered = { id, answer: answerTo(source, question) };
  self.postMessage(answered);
};
