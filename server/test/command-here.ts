import { format } from 'node:util';
import { vi } from 'vitest';
import { runCommand } from '../src/cli/command.js';
import { tellFailure } from '../src/cli/failure.js';

export interface Told {
  status: number;
  stdout: string;
  stderr: string;
}

/**
 * What the command does and tells, in the test's own process: one that starts for every call reads the program anew. That the shipped command does
 * the same is shown by calls of that one.
 */
export async function gezeitHere(args: readonly string[], env: Record<string, string> = {}): Promise<Told> {
  const told = { stdout: '', stderr: '' };
  const into = (which: keyof typeof told) => (text: string | Uint8Array) => {
    told[which] += String(text);
    return true;
  };
  const line =
    (which: keyof typeof told) =>
    (...words: unknown[]) =>
      void into(which)(`${format(...words)}\n`);
  const spies = [
    vi.spyOn(process.stdout, 'write').mockImplementation(into('stdout')),
    vi.spyOn(console, 'log').mockImplementation(line('stdout')),
    vi.spyOn(console, 'error').mockImplementation(line('stderr')),
  ];
  for (const [name, value] of Object.entries({ INIT_CWD: undefined, ...env })) vi.stubEnv(name, value);
  process.exitCode = undefined;
  try {
    await runCommand(args).catch(tellFailure);
    return { status: Number(process.exitCode ?? 0), stdout: told.stdout, stderr: told.stderr.trim() };
  } finally {
    process.exitCode = undefined;
    vi.unstubAllEnvs();
    for (const spy of spies) spy.mockRestore();
  }
}
