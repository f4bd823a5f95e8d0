import { PassThrough } from 'node:stream';
import {
  dayEventsSchema,
  dayViewSchema,
  deviceSettingSchema,
  dayFileSchema,
  fileMatchSchema,
  rigCommandSchema,
  rigTruthSchema,
  type DayMessage,
} from '@gezeit/contract';
import { comparedPairs } from '@gezeit/core';
import { z } from 'zod';
import { servePull } from '../../day/serve-pull.js';
import { loadBundle } from '../../store/load-bundle.js';
import { LOG_FILE, receiveFile } from '../receive-file.js';
import { idParams, route } from '../route.js';

const HEARTBEAT_MS = 10_000;
/** Messages that a slow window has not taken yet; beyond, it is sent no more of what only moves. */
const MOST_WAITING_BYTES = 2_000_000;

export const dayRoutes = [
  route({
    method: 'get',
    path: '/api/programmes/:id/day',
    summary: 'The day under way (or the newest): what happened, its clock, devices and newest readings.',
    params: idParams,
    answer: dayViewSchema,
    handle: async ({ params, services }) => (await services.days.run(params.id)).view(),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/day/live',
    summary: 'The day as server-sent events: a whole view when something happened, readings and trace four times a second.',
    params: idParams,
    answer: 'text/event-stream',
    async handle({ params, request, services }) {
      const run = await services.days.run(params.id);
      const stream = new PassThrough();
      const send = (message: DayMessage) => {
        if (message.type === 'live' && stream.readableLength > MOST_WAITING_BYTES) return;
        stream.write(`data: ${JSON.stringify(message)}\n\n`);
      };
      const heartbeat = setInterval(() => stream.write(': still here\n\n'), HEARTBEAT_MS);
      const stop = run.listen(send);
      request.on('close', () => {
        clearInterval(heartbeat);
        stop();
        stream.end();
      });
      send({ type: 'view', view: run.view() });
      return { type: 'text/event-stream', body: stream };
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/events',
    summary: 'Say what happened on the day; sent twice, it is kept once. Refused where it may not happen now.',
    params: idParams,
    body: dayEventsSchema,
    answer: dayViewSchema,
    changes: true,
    async handle({ params, body, person, seat, access, services }) {
      const run = await services.days.run(params.id);
      await run.addFrom(
        { seat, by: person, from: access.from },
        body.events.map((event) => ({ ...event, by: person })),
      );
      return run.view();
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/hold',
    summary: 'Take the day under way over: from now on this browser acts on it, and the one before does not.',
    params: idParams,
    body: z.object({}),
    answer: dayViewSchema,
    changes: true,
    async handle({ params, person, seat, access, services }) {
      const run = await services.days.run(params.id);
      run.holding.takeOver({ seat, by: person, from: access.from });
      run.changed();
      return run.view();
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/files',
    summary: 'Bring a log file to the day (multipart, one file); it is kept, and matched once all of them are there.',
    params: idParams,
    query: z.object({ madeAtMs: z.coerce.number() }),
    answer: dayFileSchema,
    changes: true,
    status: 201,
    async handle({ params, query, person, seat, access, request, services }) {
      const run = await services.days.run(params.id);
      run.holding.act({ seat, by: person, from: access.from });
      const { name, bytes } = await receiveFile(request, LOG_FILE);
      const { file } = await run.takeFile({ name, bytes, madeAtMs: query.madeAtMs }, true);
      return { file, questions: run.view().questions };
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/match',
    summary: 'Match the files of all devices to the pulls anew, now that no more are to come.',
    params: idParams,
    body: z.object({ final: z.boolean() }),
    answer: fileMatchSchema,
    changes: true,
    async handle({ params, body, person, seat, access, services }) {
      const run = await services.days.run(params.id);
      run.holding.act({ seat, by: person, from: access.from });
      return { questions: await run.matchAgain(body.final) };
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/devices',
    summary: 'Listen to a device: a watched folder, a stream on this machine, or the simulated rig.',
    params: idParams,
    body: deviceSettingSchema,
    answer: dayViewSchema,
    changes: true,
    onMachine: true,
    async handle({ params, body, services }) {
      const run = await services.days.run(params.id);
      await run.setDevice(body);
      return run.view();
    },
  }),
  route({
    method: 'delete',
    path: '/api/programmes/:id/day/devices/:device',
    summary: 'Stop listening to a device; what it brought stays.',
    params: idParams.extend({ device: z.string().min(1).max(40) }),
    answer: dayViewSchema,
    changes: true,
    onMachine: true,
    async handle({ params, services }) {
      const run = await services.days.run(params.id);
      await run.removeDevice(params.device);
      return run.view();
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/rig',
    summary: 'Tell the simulated rig (its driver and mechanics) what to do.',
    params: idParams,
    body: rigCommandSchema,
    answer: dayViewSchema,
    changes: true,
    async handle({ params, body, person, seat, access, services }) {
      const run = await services.days.run(params.id);
      run.holding.act({ seat, by: person, from: access.from });
      run.commandRig(body);
      return run.view();
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/day/pulls/:pull/serves',
    summary: 'Let a pull serve another programme on the same car too.',
    params: idParams.extend({ pull: z.string().min(1).max(100) }),
    body: z.object({ programmeId: z.string().min(1), setup: z.string().min(1) }),
    answer: dayViewSchema,
    changes: true,
    async handle({ params, body, person, seat, access, services }) {
      (await services.days.run(params.id)).holding.act({ seat, by: person, from: access.from });
      await services.database.write((manager) => servePull(manager, params.id, params.pull, body));
      await services.days.changed(body.programmeId);
      return (await services.days.run(params.id)).view();
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/day/rig/truth',
    summary: 'What the parts on the simulated rig truly do.',
    params: idParams,
    answer: rigTruthSchema,
    async handle({ params, services }) {
      const run = await services.days.run(params.id);
      const bundle = await loadBundle(services.database.manager, params.id);
      return { pairs: run.rigTruth(comparedPairs(bundle).map(([reference, candidate]) => [reference.id, candidate.id])) };
    },
  }),
];
