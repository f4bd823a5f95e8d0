import { connect, type Socket } from 'node:net';
import type { DeviceSetting } from '@gezeit/contract';
import { LineStream } from '@gezeit/core';
import { WebSocket } from 'ws';
import type { Device, DeviceSample, DeviceSink } from '../device.js';

type StreamSetting = Extract<DeviceSetting, { kind: 'stream' }>;

const TRY_AGAIN_MS = 2000;
/** A sender's clock that jumps by more than this against ours is taken up anew, s. */
const CLOCK_JUMP_S = 30;

/** Lines of CSV or JSON from a program on this machine, over TCP or a WebSocket; a lost connection is tried again. */
export class StreamDevice implements Device {
  #close: (() => void) | null = null;
  #timer: NodeJS.Timeout | null = null;
  #stopped = false;
  /** Our clock minus the sender's, ms: one constant, taken from its first line. */
  #offsetMs: number | null = null;

  constructor(
    readonly setting: StreamSetting,
    readonly sink: DeviceSink,
  ) {}

  start(): Promise<void> {
    this.#connect();
    return Promise.resolve();
  }

  stop(): Promise<void> {
    this.#stopped = true;
    if (this.#timer) clearTimeout(this.#timer);
    this.#close?.();
    return Promise.resolve();
  }

  #connect(): void {
    const lines = new LineStream();
    const { address } = this.setting;
    this.sink.state('waiting', `connecting to ${address}`);
    const take = (text: string) => this.#take(lines, text);
    const opened = () => this.sink.state('listening', `connected to ${address}`);
    const ended = () => {
      if (this.#stopped || this.#timer) return;
      this.sink.state('waiting', `no answer from ${address}; trying again`);
      this.#timer = setTimeout(() => {
        this.#timer = null;
        this.#connect();
      }, TRY_AGAIN_MS);
    };
    this.#close = address.startsWith('ws:') ? openSocket(address, opened, take, ended) : openTcp(address, opened, take, ended);
  }

  #take(lines: LineStream, text: string): void {
    const now = this.sink.now();
    const samples = lines.take(text).map(({ timeS, values }): DeviceSample => {
      if (timeS === null) return { atMs: now, values };
      if (this.#offsetMs === null || Math.abs(timeS * 1000 + this.#offsetMs - now) > CLOCK_JUMP_S * 1000)
        this.#offsetMs = now - timeS * 1000;
      return { atMs: timeS * 1000 + this.#offsetMs, values };
    });
    if (samples.length > 0) this.sink.samples(samples);
    const doubts = [...lines.doubts].map(([field, why]) => `“${field}” is not taken: ${why}`);
    const said = [...(lines.refused > 0 ? [`${lines.refused} lines could not be read`] : []), ...doubts];
    if (said.length > 0) this.sink.state('listening', [`connected to ${this.setting.address}`, ...said].join('; '));
  }
}

type Ended = () => void;

function openTcp(address: string, opened: () => void, take: (text: string) => void, ended: Ended): () => void {
  const { hostname, port } = new URL(address.replace('tcp:', 'http:'));
  const socket: Socket = connect({ host: hostname.replace(/[[\]]/g, ''), port: Number(port) });
  socket.setEncoding('utf8');
  socket.on('connect', opened);
  socket.on('data', (data) => take(String(data)));
  socket.on('error', () => socket.destroy());
  socket.on('close', ended);
  return () => socket.destroy();
}

function openSocket(address: string, opened: () => void, take: (text: string) => void, ended: Ended): () => void {
  const socket = new WebSocket(address);
  socket.on('open', opened);
  // A message is a whole line or several: its end is a line's end.
  socket.on('message', (data: Buffer) => take(`${data.toString('utf8')}\n`));
  socket.on('error', () => socket.terminate());
  socket.on('close', ended);
  return () => socket.terminate();
}
