import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { createMessageConnection, StreamMessageReader, StreamMessageWriter } from 'vscode-jsonrpc/node';
import type { CompletionList, Hover } from 'vscode-languageserver-protocol';
import { compilerOf, NEWEST } from './workshop.js';

type Connection = ReturnType<typeof createMessageConnection>;

/** The compiler's own language server over the files of a folder: what an editor shows. */
export class LanguageServer {
  readonly #folder: string;
  readonly #server: ChildProcess;
  readonly #connection: Connection;
  readonly #open = new Set<string>();

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

  /** Where the mark stands that `|` is in a file's text: the file is opened without it. */
  async #openAt(
    file: string,
    text: string,
  ): Promise<{ readonly textDocument: { uri: string }; readonly position: object }> {
    const uri = pathToFileURL(join(this.#folder, file)).href;
    const at = text.indexOf('⟦⟧');
    const before = text.slice(0, at).split('\n');
    const document = {
      uri,
      languageId: 'typescript',
      version: this.#open.size + 1,
      text: text.replace('⟦⟧', ''),
    };
    if (this.#open.has(uri))
      await this.#connection.sendNotification('textDocument/didClose', { textDocument: { uri } });
    this.#open.add(uri);
    await this.#connection.sendNotification('textDocument/didOpen', { textDocument: document });
    return {
      textDocument: { uri },
      position: { line: before.length - 1, character: before.at(-1)?.length ?? 0 },
    };
  }

  /** What a hover shows at the mark `⟦⟧` of a text. */
  async hover(file: string, text: string): Promise<string> {
    const hover: Hover | null = await this.#connection.sendRequest(
      'textDocument/hover',
      await this.#openAt(file, text),
    );
    const contents = hover?.contents;
    if (typeof contents === 'string') return contents;
    return contents !== undefined && 'value' in contents ? contents.value : '';
  }

  /** What is completed at the mark `⟦⟧` of a text, the names that the language has everywhere left out. */
  async completions(file: string, text: string): Promise<readonly string[]> {
    const list: CompletionList | null = await this.#connection.sendRequest(
      'textDocument/completion',
      await this.#openAt(file, text),
    );
    return (list?.items ?? []).map(({ label }) => label);
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
