import { useRouter } from 'vue-router';
import { api } from '../../shared/api/client.js';
import { useProgramme } from '../../model/programme-store.js';

/** What is done to a programme as a whole. */
export function useProgrammeActions() {
  const programme = useProgramme();
  const router = useRouter();
  return {
    /** Begins a programme that repeats this one, and opens it. */
    async revalidate(): Promise<void> {
      await programme.changeAloud(async (id) => {
        const { id: next } = await api.revalidate(id);
        await router.push({ name: 'question', params: { id: next } });
        return api.programme(next);
      });
    },
    /** Takes the programme off the board. */
    async putAway(): Promise<void> {
      const done = await programme.changeAloud(async (id) => {
        await api.archive(id, true);
        return api.programme(id);
      });
      if (done) await router.push('/');
    },
  };
}
