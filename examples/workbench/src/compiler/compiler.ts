import type { Answered, Answers, Asked, Question } from './questions.js';

/** The compiler in its worker: it is loaded when it is first asked something. */
export class Compiler {
  #worker: Worker | null = null;
  #next = 0;
  readonly #waiting = new Map<number, (answer: unknown) => void>();

  get isLoaded(): boolean {
    return this.#worker !== null;
  }

  /** What the compiler says about a text; null once it was ended. */
  ask<K extends Question['kind']>(
    source: string,
    question: Extract<Question, { kind: K }>,
  ): Promise<Answers[K] | null> {
    const worker = this.#started();
    const id = this.#next++;
    return new Promise((resolve) => {
      this.#waiting.set(id, (answer) => resolve(answer as Answers[K] | null));
      const asked: Asked = { id, source, question };
      worker.postMessage(asked);
    });
  }

  end(): void {
    this.#worker?.terminate();
    this.#worker = null;
    for (const tell of this.#waiting.values()) tell(null);
    this.#waiting.clear();
  }

  #started(): Worker {
    if (this.#worker !== null) return this.#worker;
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data: { id, answer } }: MessageEvent<Answered>) => {
      this.#waiting.get(id)?.(answer);
      this.#waiting.delete(id);
    };
    this.#worker = worker;
    return worker;
  }
}
