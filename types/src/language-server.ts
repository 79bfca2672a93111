import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { createMessageConnection, StreamMessageReader, StreamMessageWriter } from 'vscode-jsonrpc/node';
import type { CompletionList, Hover } from 'vscode-languageserver-protocol';
import { compilerOf, NEWEST } from './workshop.js';

/** Stands in a text for the place that is pointed at. */
export const MARK = '⟦⟧';

type Connection = ReturnType<typeof createMessageConnection>;

/** The compiler's own language server over the files of a folder: what an editor shows. */
export class LanguageServer {
  readonly #folder: string;
  readonly #server: ChildProcess;
  readonly #connection: Connection;
  #version = 0;

  private constructor(folder: string, server: ChildProcess, connection: Connection) {
    this.#folder = folder;
    this.#server = server;
    this.#connection = connection;
  }

  static async start(folder: string): Promise<LanguageServer> {
    const server = spawn(process.execPath, [compilerOf(NEWEST), '--lsp', '--stdio'], { cwd: folder });
    const { stdin, stdout } = server;
    const connection = createMessageConnection(
      new StreamMessageReader(stdout),
      new StreamMessageWriter(stdin),
    );
    // It asks its client for settings: none are given.
    connection.onRequest('workspace/configuration', ({ items }: { items: readonly unknown[] }) =>
      items.map(() => null),
    );
    connection.onRequest('client/registerCapability', () => null);
    connection.listen();
    const hover = { contentFormat: ['plaintext'] };
    await connection.sendRequest('initialize', {
      processId: process.pid,
      rootUri: pathToFileURL(folder).href,
      capabilities: { textDocument: { hover, completion: { completionItem: {} } } },
    });
    await connection.sendNotification('initialized', {});
    return new LanguageServer(folder, server, connection);
  }

  /** Asks about the mark in a file's text: the file has the text as long as the answer takes, and is as it was again then. */
  async #ask<Answer>(method: string, file: string, text: string): Promise<Answer | null> {
    const uri = pathToFileURL(join(this.#folder, file)).href;
    const before = text.slice(0, text.indexOf(MARK)).split('\n');
    const position = { line: before.length - 1, character: before.at(-1)?.length ?? 0 };
    this.#version++;
    await this.#connection.sendNotification('textDocument/didOpen', {
      textDocument: { uri, languageId: 'typescript', version: this.#version, text: text.replace(MARK, '') },
    });
    const answer: Answer | null = await this.#connection.sendRequest(method, {
      textDocument: { uri },
      position,
    });
    await this.#connection.sendNotification('textDocument/didClose', { textDocument: { uri } });
    return answer;
  }

  /** What a hover shows at the mark in a text. */
  async hover(file: string, text: string): Promise<string> {
    const hover = await this.#ask<Hover>('textDocument/hover', file, text);
    const contents = hover?.contents;
    if (typeof contents === 'string') return contents;
    return contents !== undefined && 'value' in contents ? contents.value : '';
  }

  /** What is completed at the mark in a text. */
  async completions(file: string, text: string): Promise<readonly string[]> {
    const list = await this.#ask<CompletionList>('textDocument/completion', file, text);
    // The server gives them in no order of its own.
    return (list?.items ?? []).map(({ label }) => label).sort();
  }

  /** The text of a file of the folder. */
  text(file: string): string {
    return readFileSync(join(this.#folder, file), 'utf8');
  }

  end(): void {
    this.#connection.dispose();
    this.#server.kill();
  }
}
