<script setup lang="ts">
import type { BoardEntry, SearchHit } from '@gezeit/contract';
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useImport } from '../model/import-store.js';
import { useNewProgramme } from '../model/new-programme-store.js';
import { useProgramme } from '../model/programme-store.js';
import { STEP_NAMES, STEP_TITLES } from '../model/step-names.js';
import { useSelection } from '../model/use-selection.js';
import { api } from '../shared/api/client.js';
import { usePerson } from '../shared/person-store.js';
import { useShortcuts } from '../shared/shortcuts.js';
import { useTheme } from '../shared/charts/theme-store.js';
import { useCommands } from './command-store.js';

/** Everything that can be done from here, found by typing a part of it. */
const commands = useCommands();
const shortcuts = useShortcuts();
const router = useRouter();
const route = useRoute();
const programme = useProgramme();
const selection = useSelection();
const importing = useImport();
const beginning = useNewProgramme();
const hits = ref<SearchHit[]>([]);
const themes = useTheme();
const person = usePerson();
const typed = ref('');
const at = ref(0);
const entered = ref(false);
const programmesKnown = ref(false);
const programmes = ref<BoardEntry[]>([]);

interface Command {
  title: string;
  /** That does the same on the screen. */
  key?: string;
  run(): void;
}

const all = computed<Command[]>(() => [
  ...stepCommands(),
  ...shortcuts.offered(),
  ...programme.pullIds
    .map((id) => ({ title: `Select pull ${id}`, run: () => (selection.pull.value = id) }))
    .filter(() => programmeId() !== null),
  { title: 'Programmes', run: () => void router.push('/') },
  ...programmes.value.map(({ id, title }) => ({
    title: `Open ${title}`,
    run: () => void router.push({ name: 'verdict', params: { id } }),
  })),
  { title: 'New programme', run: () => (beginning.open = true) },
  { title: 'Bring files in', run: () => importing.start() },
  { title: themes.theme === 'light' ? 'Dark theme' : 'Light theme', run: () => themes.toggle() },
  { title: 'Change who is working', run: () => (person.asking = true) },
]);
const found = computed(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean);
  const commandsFound = all.value.filter(({ title }) => words.every((word) => title.toLowerCase().includes(word))).slice(0, 12);
  const found = hits.value.slice(0, 8).map((hit): Command => ({
    title: `${KINDS[hit.kind]}: ${hit.text}${hit.kind === 'programme' ? '' : ` (${hit.programme})`}`,
    run: () => void router.push({ name: hit.step, params: { id: hit.programmeId } }),
  }));
  return [...commandsFound, ...found];
});
const KINDS = { programme: 'Programme', part: 'Part', file: 'File', note: 'Note' };

// What is written anywhere is found as well: asked of the server a moment after the typing stops.
let asking: AbortController | null = null;
let pause: ReturnType<typeof setTimeout> | undefined;
function askServer(words: string): void {
  clearTimeout(pause);
  asking?.abort();
  hits.value = [];
  if (words.trim().length < 2) return;
  pause = setTimeout(async () => {
    const controller = (asking = new AbortController());
    const answer = await api.search(words, controller.signal).catch(() => null);
    if (answer && !controller.signal.aborted) hits.value = answer.hits;
  }, 150);
}

/** The programme that the address names; dropped files have an id of their own. */
function programmeId(): string | null {
  const id = route.params['id'];
  return typeof id === 'string' && route.name !== 'sort' ? id : null;
}

function stepCommands(): Command[] {
  const id = programmeId();
  if (id === null) return [];
  return STEP_NAMES.map((name) => ({
    title: STEP_TITLES[name],
    run: () => void router.push({ name, params: { id }, query: route.query }),
  }));
}

function run(command: Command | undefined): void {
  if (!command) return;
  commands.open = false;
  command.run();
}

/** What was typed for it before it stood is in its field, and Enter waits for what is found. */
async function begin(): Promise<void> {
  if (commands.stands) return;
  commands.stands = true;
  typed.value = commands.typedAhead;
  await nextTick();
  entered.value = commands.enteredAhead;
}

function onListKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') at.value = Math.min(found.value.length - 1, at.value + 1);
  else if (event.key === 'ArrowUp') at.value = Math.max(0, at.value - 1);
  else if (event.key === 'Enter') {
    run(found.value[at.value]);
    entered.value = found.value.length === 0;
  } else return;
  event.preventDefault();
}

// Enter came before what was typed could be looked up: it is run when it is found, and not before the programmes are known, which come first.
watch([found, programmesKnown, entered], ([[first]]) => {
  if (!entered.value || !first || !programmesKnown.value || !commands.open) return;
  entered.value = false;
  run(first);
});
watch(typed, (words) => {
  at.value = 0;
  entered.value = false;
  askServer(words);
});
watch(
  () => commands.open,
  async (open) => {
    entered.value = false;
    programmesKnown.value = false;
    if (!open) return;
    typed.value = '';
    programmes.value = await api.board().then(
      (board) => board.programmes,
      () => [],
    );
    programmesKnown.value = true;
  },
  { immediate: true },
);
</script>

<template>
  <Dialog
    v-model:visible="commands.open"
    modal
    dismissable-mask
    :show-header="false"
    position="top"
    :style="{ width: '34rem' }"
    aria-label="Command palette"
    class="palette"
  >
    <InputText
      v-model="typed"
      class="typed"
      autofocus
      role="combobox"
      aria-label="Type a command"
      aria-controls="palette-list"
      :aria-expanded="true"
      :aria-activedescendant="found[at] ? `command-${at}` : undefined"
      placeholder="Type a command, or look for a programme, part, file or note"
      @focus="begin"
      @keydown="onListKey"
    />
    <ul id="palette-list" role="listbox" aria-label="Commands">
      <li
        v-for="(command, index) in found"
        :id="`command-${index}`"
        :key="command.title"
        role="option"
        :aria-selected="index === at"
        @click="run(command)"
        @pointermove="at = index"
      >
        {{ command.title }}<kbd v-if="command.key">{{ command.key }}</kbd>
      </li>
    </ul>
    <p v-if="found.length === 0" class="muted none">Nothing is called that.</p>
  </Dialog>
</template>

<style scoped>
.typed {
  width: 100%;
  margin-top: 1.1rem;
}
ul {
  list-style: none;
  padding: 0;
  margin-top: 0.5rem;
}
li {
  padding: 0.35rem 0.6rem;
  cursor: pointer;
  border-radius: 3px;
}
kbd {
  float: right;
  font: inherit;
  color: var(--muted);
}
li[aria-selected='true'] {
  background: var(--green-soft);
}
.none {
  padding: 0.4rem 0.6rem;
}
</style>
