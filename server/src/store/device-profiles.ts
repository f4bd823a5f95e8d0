import { randomUUID } from 'node:crypto';
import { deviceProfileSchema, type DeviceProfile, type SavedProfile } from '@gezeit/contract';
import { missing } from '@gezeit/core';
import type { Database } from '../database/database.js';
import { DeviceProfileEntity } from '../database/entities.js';

/** Every saved profile, the newest first. */
export async function listProfiles({ manager }: Database): Promise<SavedProfile[]> {
  const rows = await manager.find(DeviceProfileEntity, { order: { savedAt: 'DESC' } });
  return rows.map(({ id, body, savedAt, savedBy }) => ({ id, savedAt, savedBy, profile: deviceProfileSchema.parse(JSON.parse(body)) }));
}

/** Saves a profile; one of the same name is replaced. */
export async function saveProfile(database: Database, profile: DeviceProfile, by: string): Promise<void> {
  await database.write(async (manager) => {
    await manager.delete(DeviceProfileEntity, { name: profile.name });
    await manager.insert(DeviceProfileEntity, {
      id: randomUUID(),
      name: profile.name,
      body: JSON.stringify(profile),
      savedAt: new Date().toISOString(),
      savedBy: by,
    });
  });
}

/** @throws GezeitError `not-found`. */
export async function removeProfile(database: Database, id: string): Promise<void> {
  await database.write(async (manager) => {
    const { affected } = await manager.delete(DeviceProfileEntity, { id });
    if (affected === 0) throw missing('There is no such profile any more.', 'Reload the page.');
  });
}
