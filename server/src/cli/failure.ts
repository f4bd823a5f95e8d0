import { GezeitError } from '@gezeit/core';

/** Exit status for input that cannot be used, and for a fault of the program. */
const EXIT = { badInput: 2, fault: 1 };

/** Tells a failure in one line on the error output and sets the exit status. */
export function tellFailure(error: unknown): void {
  if (error instanceof GezeitError) {
    console.error(`gezeit: ${error.line}`);
    process.exitCode = EXIT.badInput;
    return;
  }
  const message = error instanceof Error ? error.message : String(error);
  console.error(`gezeit: something went wrong (${message.split('\n')[0]}). Please report it with the bundle.`);
  process.exitCode = EXIT.fault;
}
