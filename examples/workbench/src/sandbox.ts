import source from 'virtual:runner';
import { type Job, type Result, resultOf } from './result.js';

/** So long may an edit run. */
const PATIENCE = 3000;

/**
 * What the frame does: it keeps a worker, hands jobs on, and starts another where one never ends. It loads nothing and
 * reaches nothing; the worker, which has the edit in it, is held to the same. What the worker says is handed on as
 * such, so that it cannot speak for the frame.
 */
const frameOf = (nonce: string): string => `<!doctype html><meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; script-src 'nonce-${nonce}' 'unsafe-eval' blob:; worker-src blob:">
<script nonce="${nonce}">
let worker = null, source = '';
const tell = (said) => parent.postMessage(said, '*');
const start = () => {
  worker?.terminate();
  worker = new Worker(URL.createObjectURL(new Blob([source], { type: 'text/javascript' })));
  worker.onmessage = (event) => tell({ result: event.data });
  worker.onerror = (event) => tell({ broken: event.message });
};
onmessage = ({ data, source: sender }) => {
  if (sender !== parent) return;
  if (data.source !== undefined) { source = data.source; start(); tell('ready'); }
  else if (data.stop === true) start();
  else worker.postMessage(data);
};
tell('open');
</script>`;

/** What the frame says. */
type Said = 'open' | 'ready' | { readonly result: unknown } | { readonly broken: unknown };

/** A frame without an origin that runs code: it reaches neither this page nor any server. */
export class Sandbox {
  readonly #frame: HTMLIFrameElement;
  readonly #ready: Promise<void>;
  #next = 0;
  #done: ((result: Result) => void) | null = null;
  /** Ends the job that is at work; null where none is. */
  #late: ReturnType<typeof setTimeout> | null = null;

  constructor() {
    this.#frame = document.createElement('iframe');
    this.#frame.setAttribute('sandbox', 'allow-scripts');
    this.#frame.title = 'Where the edited code runs';
    this.#frame.hidden = true;
    this.#frame.srcdoc = frameOf(crypto.randomUUID());
    this.#ready = new Promise((resolve) => {
      window.addEventListener('message', ({ source: sender, origin, data }: MessageEvent<Said>) => {
        if (sender !== this.#frame.contentWindow || origin !== 'null') return;
        if (data === 'open') this.#send({ source });
        else if (data === 'ready') resolve();
        else this.#hear(data);
      });
    });
    document.body.append(this.#frame);
  }

  /** What the worker says counts where it is an answer to the job that is at work. */
  #hear(said: Exclude<Said, string>): void {
    if ('broken' in said) {
      this.#done?.({ id: this.#next, ok: false, message: String(said.broken) });
      return;
    }
    const result = resultOf(said.result);
    if (result?.id === this.#next) this.#done?.(result);
  }

  /** Runs one job; an earlier one that is still at work is forgotten. */
  async run(job: Omit<Job, 'id'>): Promise<Result> {
    await this.#ready;
    const id = ++this.#next;
    if (this.#late !== null) {
      // Left at work, it would keep the next one waiting, and take it along when it is stopped.
      clearTimeout(this.#late);
      this.#send({ stop: true });
    }
    return new Promise((resolve) => {
      this.#late = setTimeout(() => {
        this.#late = null;
        this.#send({ stop: true });
        resolve({
          id,
          ok: false,
          message: `It ran for more than ${PATIENCE / 1000} seconds, and was stopped. Is there a loop without an end?`,
        });
      }, PATIENCE);
      this.#done = (result) => {
        if (this.#late !== null) clearTimeout(this.#late);
        this.#late = null;
        resolve(result);
      };
      this.#send({ ...job, id });
    });
  }

  end(): void {
    this.#frame.remove();
  }

  #send(message: object): void {
    // The frame has no origin that could be named.
    this.#frame.contentWindow?.postMessage(message, '*');
  }
}
