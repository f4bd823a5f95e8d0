import type { LogView, PullDetail, PullFinding } from '@gezeit/contract';

/** The full-throttle window of a pull on a log's own clock, s. */
export function windowOn(log: LogView, finding: PullFinding | undefined, detail: PullDetail | undefined): [number, number] | null {
  const alignment = detail?.alignments.find(({ file }) => file === log.file);
  if (!alignment || finding?.startS == null || finding.endS == null) return null;
  return [finding.startS + alignment.offsetS, finding.endS + alignment.offsetS];
}
