import { archivedSchema, boardSchema, createdSchema, editSchema, newProgrammeSchema, programmeChangedSchema } from '@gezeit/contract';
import { z } from 'zod';
import { analysedState } from '../../analysis/analysis.js';
import { loadState } from '../../analysis/programme-state.js';
import { changeArchived } from '../../store/changes.js';
import { editPart } from '../../store/edit.js';
import { createProgramme, revalidate } from '../../store/new-programme.js';
import { programmeChanged } from '../programme-view.js';
import { idParams, route, StoredAnswer } from '../route.js';

/** How long the board that a change answers waits for what is judged anew, ms. */
const BOARD_WITHIN_MS = 5000;

export const editingRoutes = [
  route({
    method: 'post',
    path: '/api/programmes',
    summary: 'Begin a programme: a draft with defaults that says what is still open.',
    body: newProgrammeSchema,
    answer: createdSchema,
    changes: true,
    status: 201,
    handle: async ({ body, person, services }) => ({ id: await createProgramme(services.database, body, person) }),
  }),
  route({
    method: 'patch',
    path: '/api/programmes/:id',
    summary: 'Change one part of a programme; refused where another window has changed it meanwhile.',
    params: idParams,
    body: editSchema,
    answer: programmeChangedSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      await editPart(services.database, params.id, body, person);
      await services.days.changed(params.id);
      return new StoredAnswer(programmeChanged(services, params.id));
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/archived',
    summary: 'Put a programme away, or bring it back to the board.',
    params: idParams,
    body: archivedSchema,
    answer: boardSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      await changeArchived(services.database, params.id, body.archived, person);
      return services.cards.board(BOARD_WITHIN_MS);
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/revalidations',
    summary: 'Begin a programme that repeats this one: questions, setups and plan copied, its answers kept beside.',
    params: idParams,
    body: z.object({}),
    answer: createdSchema,
    changes: true,
    status: 201,
    async handle({ params, person, services }) {
      const { findings } = await analysedState(services, await loadState(services.database.manager, params.id));
      return { id: await revalidate(services.database, params.id, findings, person) };
    },
  }),
];
