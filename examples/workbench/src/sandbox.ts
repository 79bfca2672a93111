import source from 'virtual:runner';
import type { Job, Result } from './result.js';

/** So long may an edit run. */
const PATIENCE = 3000;

/** What the frame does: it keeps a worker, hands jobs on, and starts another where one never ends. */
const FRAME = `<!doctype html><meta charset="utf-8"><script>
let worker = null, source = '';
const start = () => {
  worker?.terminate();
  worker = new Worker(URL.createObjectURL(new Blob([source], { type: 'text/javascript' })));
  worker.onmessage = (event) => parent.postMessage(event.data, '*');
  worker.onerror = (event) => parent.postMessage({ id: -1, ok: false, message: event.message }, '*');
};
onmessage = ({ data }) => {
  if (data.source !== undefined) { source = data.source; start(); parent.postMessage('ready', '*'); }
  else if (data.stop === true) start();
  else worker.postMessage(data);
};
parent.postMessage('open', '*');
</script>`;

/** A frame without an origin that runs code: it reaches neither this page nor any server. */
export class Sandbox {
  readonly #frame: HTMLIFrameElement;
  readonly #ready: Promise<void>;
  #next = 0;
  #done: ((result: Result) => void) | null = null;

  constructor() {
    this.#frame = document.createElement('iframe');
    this.#frame.setAttribute('sandbox', 'allow-scripts');
    this.#frame.title = 'Where the edited code runs';
    this.#frame.hidden = true;
    this.#frame.srcdoc = FRAME;
    this.#ready = new Promise((resolve) => {
      window.addEventListener('message', (event: MessageEvent<Result | 'open' | 'ready'>) => {
        if (event.source !== this.#frame.contentWindow) return;
        if (event.data === 'open') this.#send({ source });
        else if (event.data === 'ready') resolve();
        else if (event.data.id === this.#next || event.data.id === -1) this.#done?.(event.data);
      });
    });
    document.body.append(this.#frame);
  }

  /** Runs one job; an earlier one that is still at work is forgotten. */
  async run(job: Omit<Job, 'id'>): Promise<Result> {
    await this.#ready;
    const id = ++this.#next;
    return new Promise((resolve) => {
      const late = setTimeout(() => {
        this.#send({ stop: true });
        resolve({
          id,
          ok: false,
          message: `It ran for more than ${PATIENCE / 1000} seconds, and was stopped. Is there a loop without an end?`,
        });
      }, PATIENCE);
      this.#done = (result) => {
        clearTimeout(late);
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
