import type { BoardEntry, StagedList } from '@gezeit/contract';
import { computed, onMounted, onUnmounted, shallowRef, watch } from 'vue';
import { useImport } from '../../model/import-store.js';
import { api, ApiFailure } from '../../shared/api/client.js';
import { usePerson } from '../../shared/person-store.js';
import { useRefocus } from '../../shared/use-refocus.js';

const UNREADABLE = new ApiFailure('The board could not be read.', 'Reload the page; if it happens again, report it.');
/** How often the board is asked for again while answers are judged anew, ms. */
const FOLLOWS_MS = 1000;
/** What waits to be sorted is asked for once the board is drawn: its answer is checked, and what checks comes late. */
const ONCE_DRAWN_MS = 400;

/** Every programme of the board, put away or not, and what waits to be sorted; follows what changes them while the calling component stands. */
export function useBoard() {
  const importing = useImport();
  const person = usePerson();
  const all = shallowRef<BoardEntry[] | null>(null);
  const waiting = shallowRef<StagedList['staged']>([]);
  const failure = shallowRef<ApiFailure | null>(null);
  const count = (which: (entry: BoardEntry) => boolean) => computed(() => all.value?.filter(which).length ?? 0);
  const outOfDateCount = count(({ fixed }) => fixed.outOfDate > 0);
  const judgingCount = count(({ judging }) => judging);
  const archivedCount = count(({ archived }) => archived);

  let following: ReturnType<typeof setTimeout> | undefined;
  onUnmounted(() => clearTimeout(following));
  async function load(): Promise<void> {
    failure.value = null;
    try {
      all.value = (await api.board(() => (failure.value = UNREADABLE))).programmes;
      clearTimeout(following);
      if (judgingCount.value > 0) following = setTimeout(load, FOLLOWS_MS);
    } catch (error) {
      failure.value = ApiFailure.of(error, 'The board could not be read.', 'Reload the page.');
    }
  }
  async function loadWaiting(): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, ONCE_DRAWN_MS));
    const answer = await api.stagedList().catch(() => null);
    if (answer) waiting.value = answer.staged;
  }
  onMounted(loadWaiting);
  onMounted(load);
  // Another tab or the command may have changed the board meanwhile.
  useRefocus(load);
  watch(() => importing.finished, load);

  /** Brings a programme back that was put away. */
  async function bringBack(id: string): Promise<void> {
    if (!(await person.ensure())) return;
    try {
      all.value = (await api.archive(id, false)).programmes;
    } catch (error) {
      failure.value = ApiFailure.of(error, 'It could not be brought back.', 'Try again.');
    }
  }

  return { all, waiting, failure, outOfDateCount, judgingCount, archivedCount, load, bringBack };
}
