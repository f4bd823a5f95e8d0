import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { GezeitError } from '@gezeit/core';
import type { WorkMessage, WorkRequest, WorkResult } from './messages.js';

/** Thrown to whoever waits for work that was cancelled. */
export class WorkCancelled extends Error {}

interface Waiting {
  request: WorkRequest;
  onProgress: (message: Extract<WorkMessage, { type: 'progress' }>) => void;
  resolve(result: WorkResult): void;
  reject(error: Error): void;
}

/** The worker as it was built; run from source (in tests), through the same loader that runs the source. */
function startThread(workerData: object): Worker {
  const built = fileURLToPath(new URL('./worker.js', import.meta.url));
  if (existsSync(built)) return new Worker(built, { workerData });
  const source = new URL('./worker.ts', import.meta.url).href;
  return new Worker(`import('tsx/esm/api').then(({ register }) => (register(), import(${JSON.stringify(source)})))`, {
    eval: true,
    workerData,
  });
}

/** A piece of work under way: its end, and how to stop it. */
export interface Work {
  done: Promise<WorkResult>;
  cancel(): void;
}

/** One warm worker thread; work queues before it. Cancelling what runs ends the thread and starts a new one. */
export class WorkQueue {
  readonly #database: string;
  readonly #queue: Waiting[] = [];
  #worker: Worker | null = null;
  #running: Waiting | null = null;
  #closed = false;

  constructor(database: string) {
    this.#database = database;
    this.#start();
  }

  run(request: WorkRequest, onProgress: Waiting['onProgress'] = () => {}): Work {
    let waiting!: Waiting;
    const done = new Promise<WorkResult>((resolve, reject) => {
      waiting = { request, onProgress, resolve, reject };
    });
    this.#queue.push(waiting);
    this.#next();
    return { done, cancel: () => this.#cancel(waiting) };
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const waiting of [...this.#queue.splice(0), ...(this.#running ? [this.#running] : [])])
      waiting.reject(new WorkCancelled('closing'));
    await this.#worker?.terminate();
  }

  #start(): void {
    const worker = startThread({ database: this.#database });
    worker.on('message', (message: WorkMessage) => this.#onMessage(worker, message));
    worker.on('error', (error) => this.#onEnd(worker, error));
    worker.on('exit', () => this.#onEnd(worker, new Error('the worker ended')));
    this.#worker = worker;
  }

  #onMessage(worker: Worker, message: WorkMessage): void {
    if (worker !== this.#worker || message.type === 'ready' || !this.#running) return;
    const running = this.#running;
    if (message.type === 'progress') return running.onProgress(message);
    this.#running = null;
    if (message.type === 'done') running.resolve(message.result);
    else if (message.type === 'refused')
      running.reject(new GezeitError(message.error.code, message.error.message, message.error.nextStep, message.error.place));
    else running.reject(Object.assign(new Error('the worker failed'), { stack: message.stack }));
    this.#next();
  }

  #onEnd(worker: Worker, error: Error): void {
    if (worker !== this.#worker || this.#closed) return;
    this.#running?.reject(error);
    this.#running = null;
    this.#start();
    this.#next();
  }

  #next(): void {
    if (this.#running || this.#closed) return;
    const waiting = this.#queue.shift();
    if (!waiting) return;
    this.#running = waiting;
    this.#worker!.postMessage(waiting.request);
  }

  #cancel(waiting: Waiting): void {
    const queued = this.#queue.indexOf(waiting);
    if (queued >= 0) this.#queue.splice(queued, 1);
    else if (this.#running !== waiting) return;
    waiting.reject(new WorkCancelled('cancelled'));
    if (this.#running !== waiting) return;
    this.#running = null;
    const ending = this.#worker;
    this.#start();
    void ending?.terminate();
    this.#next();
  }
}
