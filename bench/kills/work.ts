import { randomUUID } from 'node:crypto';
import type { ImportState } from '@gezeit/contract';
import type { Ledger } from './ledger.js';
import { smallBundle } from './small-bundle.js';

const PERSON = { 'x-gezeit-person': 'Kill%20test' };
const JSON_PERSON = { ...PERSON, 'content-type': 'application/json', prefer: 'respond-async' };

/** What the windows of several people do at once, until the server is gone: whatever it acknowledges is put down. */
export class Work {
  readonly #programmes: string[] = [];
  /** Answers that no server may give: 500, and text that is no JSON. */
  readonly wrong: string[] = [];
  readonly refused = new Map<string, number>();
  #stopped = false;

  constructor(
    readonly address: string,
    readonly ledger: Ledger,
    readonly random: () => number,
    programmes: readonly string[],
  ) {
    this.#programmes.push(...programmes);
  }

  get programmes(): readonly string[] {
    return this.#programmes;
  }

  /** Goes on until it is stopped or nobody answers. */
  async goOn(): Promise<void> {
    const windows = [
      () => this.#import(),
      () => this.#edit(),
      () => this.#fix(),
      () => this.#attach(),
      () => this.#day(),
      () => this.#keep(),
      () => this.#car(),
    ];
    await Promise.all(
      windows.map(async (act) => {
        while (!this.#stopped)
          try {
            await act();
          } catch {
            // The server is gone, or went in the middle of an answer: nothing was acknowledged.
            return;
          }
      }),
    );
  }

  stop(): void {
    this.#stopped = true;
  }

  async #import(): Promise<void> {
    const { files, pulls, logs } = smallBundle(`Killed ${randomUUID()}`);
    const form = new FormData();
    for (const [file, bytes] of files) form.append(file, new Blob([new Uint8Array(bytes)]), file.split('/').at(-1));
    let state = await this.#ask<ImportState>('imports', { method: 'POST', headers: PERSON, body: form });
    // One in five is cancelled, which ends the worker in the middle.
    const isCancelled = this.random() < 0.2;
    if (state && isCancelled) await this.#ask(`imports/${state.id}`, { method: 'DELETE', headers: PERSON });
    while (state && !state.outcome) {
      await new Promise((resolve) => setTimeout(resolve, 15));
      state = await this.#ask<ImportState>(`imports/${state.id}`, {});
    }
    if (state?.outcome?.kind === 'failed') this.#refuse(state.outcome.error.code);
    if (state?.outcome?.kind !== 'imported') return;
    this.ledger.imported(state.outcome.programmeId, pulls, logs);
    this.#programmes.push(state.outcome.programmeId);
  }

  async #edit(): Promise<void> {
    const id = await this.#one();
    if (!id) return;
    const view = await this.#ask<{ bundle: { programme: object } }>(`programmes/${id}`, {});
    if (!view) return;
    const what = `edit-${randomUUID()}`;
    const before = view.bundle.programme;
    const edit = { part: 'programme', before, value: { ...before, question: what }, what };
    const sent = { method: 'PATCH', headers: JSON_PERSON, body: JSON.stringify(edit) };
    await this.#ask(`programmes/${id}`, sent, () => this.ledger.edited(id, what));
  }

  async #fix(): Promise<void> {
    const id = await this.#one();
    if (!id) return;
    const why = `fixed-${randomUUID()}`;
    const sent = { method: 'POST', headers: JSON_PERSON, body: JSON.stringify({ why }) };
    await this.#ask(`programmes/${id}/fixed`, sent, () => this.ledger.fixed(id, why));
  }

  async #attach(): Promise<void> {
    const id = await this.#one();
    if (!id) return;
    const bytes = Buffer.from(randomUUID().repeat(1 + Math.floor(2000 * this.random())));
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(bytes)]), `${randomUUID()}.txt`);
    const made = await this.#ask<{ id: string }>(`programmes/${id}/attachments`, { method: 'POST', headers: PERSON, body: form });
    if (made) this.ledger.attached(id, made.id, bytes);
  }

  async #day(): Promise<void> {
    const created = await this.#post<{ id: string }>('programmes', { title: `Day ${randomUUID()}`, aspiration: 'turbo' });
    if (!created) return;
    this.ledger.created(created.id);
    const happen = async (what: object) => {
      const event = randomUUID();
      const sent = { events: [{ id: event, at: new Date().toISOString(), what }] };
      if (await this.#post(`programmes/${created.id}/day/events`, sent)) this.ledger.happened(created.id, event);
    };
    await happen({ kind: 'begun', day: '2026-03-04', pulls: [{ setup: 'A', kind: 'measured', atMin: 0 }], fitted: 'A' });
    const rig = { id: 'rig-1', kind: 'rig', speed: 60, follows: true, seed: Math.floor(this.random() * 1000), clockWrongS: 0 };
    if (this.random() < 0.3) await this.#post(`programmes/${created.id}/day/devices`, rig);
    for (let i = 0; i < 6 && !this.#stopped; i++) await happen({ kind: 'note', text: `note ${i}`, files: [] });
    await this.#ask(`programmes/${created.id}/day/devices/rig-1`, { method: 'DELETE', headers: PERSON });
  }

  async #keep(): Promise<void> {
    const id = await this.#one();
    if (!id) return;
    const key = `e-${randomUUID()}`;
    const evidence = {
      ...{ format: 'gezeit-evidence', version: 1, id: key, instrument: 'flow-bench', title: 'A duct', sentence: 'Area 21 cm².' },
      ...{ setup: 'A', section: 'duct', inputs: {}, figures: [], warnings: [], formulas: ['e2'], assumptions: [], note: '' },
    };
    if (await this.#post(`programmes/${id}/evidence`, evidence)) this.ledger.kept(id, key);
  }

  async #car(): Promise<void> {
    const made = await this.#post<{ id: string }>('vehicles', { name: `Car ${randomUUID()}`, aspiration: 'na', displacementL: 2 });
    if (made) this.ledger.madeCar(made.id);
    await new Promise((resolve) => setTimeout(resolve, 30));
  }

  async #one(): Promise<string | undefined> {
    await new Promise((resolve) => setTimeout(resolve, 5));
    return this.#programmes[Math.floor(this.random() * this.#programmes.length)];
  }

  #post<T>(path: string, body: unknown): Promise<T | null> {
    return this.#ask<T>(path, { method: 'POST', headers: JSON_PERSON, body: JSON.stringify(body) });
  }

  /** The answer where it is a good one; null where it was refused. @param onStored called with the status, before what is judged follows. */
  async #ask<T>(path: string, init: RequestInit, onStored: () => void = () => undefined): Promise<T | null> {
    const response = await fetch(`${this.address}api/${path}`, init);
    if (response.ok) onStored();
    const text = await response.text();
    const answer = JSON.parse(text) as T & { error?: { code: string } };
    if (response.ok) return answer;
    if (response.status === 500) this.wrong.push(`${init.method ?? 'GET'} ${path}: 500 ${text.slice(0, 200)}`);
    this.#refuse(answer.error!.code);
    return null;
  }

  #refuse(code: string): void {
    this.refused.set(code, (this.refused.get(code) ?? 0) + 1);
  }
}
