import { deviceProfileSchema, deviceProfilesSchema } from '@gezeit/contract';
import { listProfiles, removeProfile, saveProfile } from '../../store/device-profiles.js';
import { idParams, route } from '../route.js';

export const profileRoutes = [
  route({
    method: 'get',
    path: '/api/profiles',
    summary: 'Device profiles that were saved: what was decided about the columns of a device, for any programme.',
    answer: deviceProfilesSchema,
    handle: async ({ services }) => ({ profiles: await listProfiles(services.database) }),
  }),
  route({
    method: 'post',
    path: '/api/profiles',
    summary: 'Save a device profile; one of the same name is replaced.',
    body: deviceProfileSchema,
    answer: deviceProfilesSchema,
    changes: true,
    status: 201,
    async handle({ body, person, services }) {
      await saveProfile(services.database, body, person);
      return { profiles: await listProfiles(services.database) };
    },
  }),
  route({
    method: 'delete',
    path: '/api/profiles/:id',
    summary: 'Remove a saved device profile; programmes that it was applied to keep what it said.',
    params: idParams,
    answer: deviceProfilesSchema,
    changes: true,
    async handle({ params, services }) {
      await removeProfile(services.database, params.id);
      return { profiles: await listProfiles(services.database) };
    },
  }),
];
