import {
  alignmentByHandSchema,
  amendmentSchema,
  boardSchema,
  choicesExtentSchema,
  choicesSchema,
  curvesSchema,
  exclusionSchema,
  findingsSchema,
  programmeChangedSchema,
  programmeViewSchema,
  stampAnswerSchema,
  undoneSchema,
} from '@gezeit/contract';
import { z } from 'zod';
import { analysedState, choicesOfState, curvesOfState, findingsToGive } from '../../analysis/analysis.js';
import { loadState } from '../../analysis/programme-state.js';
import { exportBundle } from '../../store/export-bundle.js';
import { changePull, undoAmendment } from '../../day/amend-pull.js';
import { undoAdded } from '../../staging/add-to-programme.js';
import { alignByHand, undoAlignment } from '../../store/align-by-hand.js';
import { changeExclusion, undoLast } from '../../store/changes.js';
import { findProgramme } from '../../store/load-bundle.js';
import { stampOf } from '../../store/stamp.js';
import { programmeChanged, programmeView } from '../programme-view.js';
import { idParams, route, StoredAnswer } from '../route.js';

const fileName = (title: string) =>
  title
    .replace(/[^\p{L}\d]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase() || 'programme';

export const programmeRoutes = [
  route({
    method: 'get',
    path: '/api/programmes',
    summary: 'The board: every programme with its present answers. After `withinMs` it waits no longer for those that are judged anew.',
    answer: boardSchema,
    query: z.object({ withinMs: z.coerce.number().int().min(0).max(60_000).optional() }),
    handle: ({ query, services }) => services.cards.board(query.withinMs ?? null),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id',
    summary: 'A programme with its bundle, findings, tide, pulls and logs.',
    params: idParams,
    answer: programmeViewSchema,
    handle: ({ params, services }) => programmeView(services, params.id),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/stamp',
    summary: 'Whether a programme was changed: another text where anything of it was.',
    params: idParams,
    answer: stampAnswerSchema,
    handle: async ({ params, services }) => ({ stamp: await stampOf(services.database.manager, params.id) }),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/findings',
    summary: 'The findings of a programme in the exchange format.',
    params: idParams,
    answer: findingsSchema,
    async handle({ params, services }) {
      return findingsToGive(services, await loadState(services.database.manager, params.id));
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/curves',
    summary: 'Power, torque and differences over engine speed.',
    params: idParams,
    answer: curvesSchema,
    async handle({ params, services }) {
      return curvesOfState(services, await loadState(services.database.manager, params.id));
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/choices',
    summary: 'What the same pulls say under other corrections, metrics, band edges and beliefs, and what each answer rests on.',
    params: idParams,
    query: z.object({ extent: choicesExtentSchema.default('all') }),
    answer: choicesSchema,
    async handle({ params, query, services }) {
      return choicesOfState(services, await loadState(services.database.manager, params.id), query.extent);
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/bundle',
    summary: 'The programme as a bundle (.zip): description and original logs.',
    params: idParams,
    answer: 'application/zip',
    async handle({ params, services }) {
      const { title } = await findProgramme(services.database.manager, params.id);
      const body = await exportBundle(services.database.manager, params.id);
      return { type: 'application/zip', body, fileName: `${fileName(title)}.zip` };
    },
  }),
  route({
    method: 'patch',
    path: '/api/programmes/:id/pulls/:pull',
    summary: 'Leave a pull out with a reason, use it in spite of the rules, or let the rules decide.',
    params: idParams.extend({ pull: z.string().min(1).max(100) }),
    body: exclusionSchema,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      await changeExclusion(services.database, params.id, params.pull, body.excluded, person);
      await services.days.changed(params.id);
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'patch',
    path: '/api/programmes/:id/pulls/:pull/alignment',
    summary: 'Move a log of a pull against the others by hand, or give it back to what the logs show.',
    params: idParams.extend({ pull: z.string().min(1).max(100) }),
    body: alignmentByHandSchema,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      const { pulls } = await analysedState(services, await loadState(services.database.manager, params.id));
      const alignments = pulls.find(({ id }) => id === params.pull)?.alignments ?? [];
      await alignByHand(services.database, params.id, params.pull, body, alignments, person);
      await services.days.changed(params.id);
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/pulls/:pull/amendments',
    summary: 'Correct weather, figures, kind or setup of a driven pull, with the reason; the pull says so from then on.',
    params: idParams.extend({ pull: z.string().min(1).max(100) }),
    body: amendmentSchema,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      await changePull(services.database, params.id, params.pull, body, person);
      await services.days.changed(params.id);
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/undo',
    summary: 'Undo the last change of a programme that is not undone yet.',
    params: idParams,
    answer: undoneSchema,
    changes: true,
    async handle({ params, services }) {
      const takenBack = await undoLast(services.database, params.id, {
        'pull-amended': undoAmendment,
        'files-added': undoAdded,
        'log-aligned': undoAlignment,
      });
      await services.days.changed(params.id);
      return new StoredAnswer(programmeChanged(services, params.id).then((changed) => ({ ...changed, takenBack })));
    },
  }),
];
