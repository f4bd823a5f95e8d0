import { createdSchema, programmeViewSchema, type ProgrammeView } from '@gezeit/contract';
import { flushPromises } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, inject, vi } from 'vitest';
import { onPage, troubles } from './on-page.js';
import { request, type Answered } from './request.js';

const PERSON = { initials: 'PT', name: 'Page Test' };
const HEADERS = { 'x-gezeit-person': 'PT%20Page%20Test', 'content-type': 'application/json' };

const realFetch = globalThis.fetch;

/** What a request asked. */
export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

/** Only what is sent as a form needs the page's own fetch. */
async function askServer(path: string, init: RequestInit = {}): Promise<Answered> {
  const { body } = init;
  if (typeof body === 'string' || !body) return request(new URL(path, location.href), { ...init, body: body ?? undefined });
  const answer = await realFetch.call(window, path, init);
  return { status: answer.status, headers: [...answer.headers], body: new Uint8Array(await answer.arrayBuffer()) };
}

/** An answer has something asked again so often at most. */
const MOST_ROUNDS = 20;

/** The line from the page to the server: it can be cut, slow, or answer for the server. */
export class Line {
  readonly asked: Asked[] = [];
  cut = false;
  readonly #going = new Set<Promise<unknown>>();
  #held: { match: RegExp; until: Promise<void> }[] = [];
  #instead: { match: RegExp; status: number; body: unknown }[] = [];

  /** Holds the answers to what matches back until the returned function is called. */
  hold(match: RegExp): () => void {
    let release = () => {};
    this.#held.push({ match, until: new Promise((resolve) => (release = resolve)) });
    return () => release();
  }

  /** Answers the next request that matches in place of the server. */
  answer(match: RegExp, status: number, body: unknown): void {
    this.#instead.push({ match, status, body });
  }

  /** Lets a request of the page through. */
  async fetch(address: RequestInfo | URL, init?: RequestInit): Promise<Response> {
    const path = String(address);
    const asked = `${init?.method ?? 'GET'} ${path}`;
    this.asked.push({
      method: init?.method ?? 'GET',
      path,
      body: typeof init?.body === 'string' ? (JSON.parse(init.body) as unknown) : init?.body,
    });
    if (this.cut) throw new TypeError('cut');
    const instead = this.#instead.find(({ match }) => match.test(asked));
    if (instead) {
      this.#instead = this.#instead.filter((entry) => entry !== instead);
      return new Response(JSON.stringify(instead.body), { status: instead.status, headers: { 'content-type': 'application/json' } });
    }
    const going = askServer(path, init);
    this.#going.add(going);
    const { status, headers, body } = await going.finally(() => this.#going.delete(going));
    const held = this.#held.find(({ match }) => match.test(asked));
    if (held) {
      this.#held = this.#held.filter((entry) => entry !== held);
      await held.until;
    }
    if (init?.signal?.aborted) throw new DOMException('aborted', 'AbortError');
    return new Response(body, { status, headers });
  }

  /**
   * What the server was asked is answered, and what follows from that has been done: a store that goes on in the next test would be taken for the
   * one of that test.
   */
  async settled(): Promise<void> {
    for (let rounds = 0; this.#going.size > 0 && rounds < MOST_ROUNDS; rounds += 1) {
      await Promise.allSettled(this.#going);
      await flushPromises();
    }
  }

  /** Requests that match, as `METHOD path`. */
  of(match: RegExp): Asked[] {
    return this.asked.filter(({ method, path }) => match.test(`${method} ${path}`));
  }
}

/** An error as the server tells it. */
export const refusal = (code: string, message: string) => ({ error: { code, message, nextStep: 'Do something else.', place: {} } });

/** The live connection of a day, of which the test is the other end. */
export class LiveEnd {
  static last: LiveEnd | null = null;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  closed = false;

  constructor(readonly address: string) {
    LiveEnd.last = this;
  }

  close(): void {
    this.closed = true;
  }

  tell(message: unknown): void {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
}

/** The page is one of this server. */
export function pageOf(server: string): void {
  (window as unknown as { happyDOM: { setURL: (address: string) => void } }).happyDOM.setURL(server);
}

/**
 * A fresh page of somebody who has said who is working, before every test of the file, left without anything on it and without anything that went
 * wrong in its parts; its line to the server is returned.
 */
export function page(): { line: Line } {
  const held: { line: Line } = { line: undefined as never };
  beforeEach(() => {
    pageOf(inject('server'));
    localStorage.clear();
    localStorage.setItem('gezeit.person', JSON.stringify(PERSON));
    held.line = new Line();
    vi.stubGlobal('fetch', (address: string, init?: RequestInit) => held.line.fetch(address, init));
    vi.stubGlobal('EventSource', LiveEnd);
    setActivePinia(createPinia());
  });
  afterEach(async () => {
    for (const part of onPage) part.unmount();
    await held.line.settled();
    vi.unstubAllGlobals();
    document.body.replaceChildren();
    expect(troubles.splice(0)).toEqual([]);
  });
  return held;
}

/** Asks the server past the page. */
export async function direct(method: string, path: string, body?: unknown): Promise<unknown> {
  const answer = await globalThis.fetch(path, { method, headers: HEADERS, body: body === undefined ? undefined : JSON.stringify(body) });
  return answer.json();
}

/** A programme of its own for a test. */
export async function newProgramme(title: string): Promise<string> {
  return createdSchema.parse(await direct('POST', '/api/programmes', { title, aspiration: 'turbo', vehicleId: null, cellId: null })).id;
}

export async function heldByServer(id: string): Promise<ProgrammeView> {
  return programmeViewSchema.parse(await direct('GET', `/api/programmes/${id}`));
}
