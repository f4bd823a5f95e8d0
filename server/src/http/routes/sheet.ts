import {
  checkedAgainSchema,
  claimCheckedSchema,
  fixDraftSchema,
  fixedAnswerSchema,
  METHOD_VERSION,
  programmeChangedSchema,
  sheetSourceSchema,
} from '@gezeit/contract';
import type { SheetSource } from '@gezeit/contract';
import type { IncomingMessage } from 'node:http';
import { claimFromText, differingFigures, GezeitError } from '@gezeit/core';
import { z } from 'zod';
import { analysedState, curvesOfState, findingsToGive } from '../../analysis/analysis.js';
import { loadState, type ProgrammeState } from '../../analysis/programme-state.js';
import { fixedFrom, fixedOf, keepFixed } from '../../analysis/fixed-findings.js';
import { nextFixedKey, removeFixed } from '../../store/fixed-findings.js';
import { printPdf } from '../../print/print-pdf.js';
import { programmeChanged } from '../programme-view.js';
import { idParams, route, type Services, StoredAnswer } from '../route.js';

const keyParams = idParams.extend({ key: z.string().min(1).max(80) });

/** A sheet with its fonts is a few hundred kB. */
const MOST_HTML_BYTES = 4_000_000;

/** The page that was sent, as a text. @throws GezeitError `no-page`, `page-too-large`. */
async function pageOf(request: IncomingMessage): Promise<string> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes <= MOST_HTML_BYTES) chunks.push(chunk);
  }
  if (bytes > MOST_HTML_BYTES)
    throw new GezeitError('page-too-large', 'The page is larger than 4 MB.', 'Use Print: your browser makes the PDF.');
  const html = Buffer.concat(chunks).toString('utf8');
  if (html.trim() === '') throw new GezeitError('no-page', 'No page was sent.', 'Send the HTML of the page as the body, as text/html.');
  return html;
}

/** What a sheet is made from now, with what every answer rests on. */
async function sourceOf(services: Services, state: ProgrammeState): Promise<SheetSource> {
  const [findings, curves, { tide }] = await Promise.all([
    findingsToGive(services, state),
    curvesOfState(services, state),
    analysedState(services, state),
  ]);
  const { traceViews: _, ...bundle } = state.bundle;
  return { bundle, findings, curves, tide, evidence: [...state.evidence] };
}

export const sheetRoutes = [
  route({
    method: 'post',
    path: '/api/pdf',
    summary: 'A page that stands by itself (the body is HTML) as PDF, by the Chromium of this machine. Nothing is kept of it.',
    answer: 'application/pdf',
    handle: async ({ request }) => ({ type: 'application/pdf', body: await printPdf(await pageOf(request)) }),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/claim',
    summary: 'Hold a sentence with a figure against what was measured; nothing is kept of it.',
    params: idParams,
    query: z.object({ text: z.string().trim().min(1).max(500), setup: z.string().max(100).optional() }),
    answer: claimCheckedSchema,
    async handle({ params, query, services }) {
      const { understood, fields, words } = claimFromText(query.text);
      if (!understood) return { understood: words, finding: null };
      const state = await loadState(services.database.manager, params.id);
      const claim = { ...fields, id: 'asked', text: query.text, setup: query.setup ?? null };
      return { understood: words, finding: await services.work.claim(state, claim) };
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/sheet',
    summary: 'Everything that a validation sheet is made from, as it is now: not fixed.',
    params: idParams,
    answer: sheetSourceSchema,
    handle: async ({ params, services }) => sourceOf(services, await loadState(services.database.manager, params.id)),
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/fixed',
    summary: 'Fix the answers as they are: numbers, words, inputs. They are never computed again.',
    params: idParams,
    body: fixDraftSchema,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      const { database } = services;
      const state = await loadState(database.manager, params.id);
      const source = await sourceOf(services, state);
      await database.write(async (manager) => {
        const stamp = { id: await nextFixedKey(manager, params.id), by: person, at: new Date().toISOString(), why: body.why };
        await keepFixed(manager, await loadState(manager, params.id), fixedFrom(source, state, stamp));
      });
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/fixed/:key',
    summary: 'A fixed finding as it was, and what has changed under it.',
    params: keyParams,
    answer: fixedAnswerSchema,
    handle: async ({ params, services }) =>
      fixedOf(services.database.manager, await loadState(services.database.manager, params.id), params.key),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/fixed/:key/check',
    summary: 'Compute a fixed finding again beside it, from what its inputs are now, and tell every figure that differs.',
    params: keyParams,
    answer: checkedAgainSchema,
    async handle({ params, services }) {
      const state = await loadState(services.database.manager, params.id);
      const { entry, fixed } = await fixedOf(services.database.manager, state, params.key);
      const { findings } = await services.work.analyse(state);
      return {
        sameInputs: entry.changed.length === 0,
        sameMethod: fixed.method === METHOD_VERSION,
        differing: differingFigures(fixed.finding.comparisons, findings.comparisons),
      };
    },
  }),
  route({
    method: 'delete',
    path: '/api/programmes/:id/fixed/:key',
    summary: 'Take a fixed finding away; undo brings it back.',
    params: keyParams,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, person, services }) {
      await services.database.write((manager) => removeFixed(manager, params.id, params.key, person));
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
];
