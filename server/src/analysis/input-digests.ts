import type { ChoicesExtent } from '@gezeit/contract';
import { decidedChannels, measuredFrom } from '@gezeit/core';
import { sha256 } from '../bundle/sha256.js';
import { COMPUTATION_VERSION } from './computation-version.js';
import type { ProgrammeState } from './programme-state.js';

const digestOf = (product: string, inputs: unknown): string => sha256(JSON.stringify([COMPUTATION_VERSION, product, inputs]));

/** Digest of what every pull is measured from, by the pull's id. */
export function pullDigests({ bundle, logs }: ProgrammeState): Map<string, string> {
  return new Map(
    bundle.pulls.map((pull) => {
      const files = pull.logs.map(({ file, device }) => {
        const decided = decidedChannels(bundle, device, file);
        const digest = logs.get(file) ?? null;
        return decided === null ? digest : [digest, decided];
      });
      return [pull.id, digestOf('pull', [measuredFrom(bundle, pull), files])];
    }),
  );
}

/**
 * Digest of what findings are made from. Of the bench only the comparisons of the flow bench count, and where the path of a setup names them:
 * claims of flow are held against them.
 */
export function findingsDigest(state: ProgrammeState): string {
  const flow = state.evidence
    .filter(({ instrument }) => instrument === 'flow-bench')
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map(({ id, setup, section, figures }) => [id, setup, section, figures]);
  const links = state.bundle.setups.map(({ path }) =>
    (path ?? []).flatMap(({ name, bench: loss }) => (loss?.evidence ? [[name, loss.evidence, loss.item ?? null]] : [])),
  );
  return digestOf('findings', [judgedOf(state), links, flow]);
}

/** Digest of what the curves are made from: no evidence of the bench, and no claim. */
export function curvesDigest(state: ProgrammeState): string {
  return digestOf('curves', judgedOf(state));
}

/** Digest of what the choices are made from: the same as the curves. */
export function choicesDigest(state: ProgrammeState, extent: ChoicesExtent): string {
  return digestOf(`choices ${extent}`, judgedOf(state));
}

/** What a comparison of pulls is made from. */
function judgedOf({ bundle, logs }: ProgrammeState): unknown {
  const { bench: _, traceViews: ____, programme: named, ...judged } = bundle;
  const { title: _____, question: ______, ...programme } = named;
  const setups = bundle.setups.map(({ path: __, partDetails: ___, ...setup }) => setup);
  return [{ ...judged, programme, setups }, [...logs].sort(([a], [b]) => (a < b ? -1 : 1))];
}
