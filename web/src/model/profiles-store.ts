import type { DeviceProfile, ReadFile, SavedProfile } from '@gezeit/contract';
import { defineStore } from 'pinia';
import { ref, shallowRef } from 'vue';
import { api, ApiFailure } from '../shared/api/client.js';
import { usePerson } from '../shared/person-store.js';

/** Device profiles that were saved: what was decided about a device's columns, for any programme. */
export const useProfiles = defineStore('profiles', () => {
  const person = usePerson();
  const profiles = shallowRef<SavedProfile[]>([]);
  const failure = shallowRef<ApiFailure | null>(null);
  const loaded = ref(false);

  async function ask(request: () => Promise<{ profiles: SavedProfile[] }>): Promise<boolean> {
    failure.value = null;
    try {
      profiles.value = (await request()).profiles;
      loaded.value = true;
      return true;
    } catch (error) {
      failure.value = ApiFailure.of(error, 'The device profiles could not be reached.', 'Try again.');
      return false;
    }
  }

  const load = async () => loaded.value || (await ask(() => api.profiles()));
  const save = async (profile: DeviceProfile) => (await person.ensure()) && ask(() => api.saveProfile(profile));
  const remove = async (id: string) => (await person.ensure()) && ask(() => api.removeProfile(id));

  return { profiles, failure, load, save, remove };
});

/** Whether a file has every column by which a profile knows its device. */
export const fitsProfile = ({ match }: DeviceProfile, { columns }: Pick<ReadFile, 'columns'>): boolean =>
  match.length > 0 && match.every((wanted) => columns.some(({ header }) => header === wanted));
