<script setup lang="ts">
import { DEVICE_WORDS, quantityWords, reasonsText } from '@gezeit/core';
import type { ChannelMapping, Channels, DeviceProfile, ReadFile, Reading, ReadReason } from '@gezeit/contract';
import { STANDING_FOLDER } from '@gezeit/contract';
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import ColumnTable from '../../parts/ColumnTable.vue';
import { fitsProfile, useProfiles } from '../../model/profiles-store.js';
import SortProfiles from './SortProfiles.vue';
import { freeSweeps, sayPull, shortName, type Sweep } from './sweeps.js';

/** What the files are taken for, a line for each kind of file: what is not known first, then what was assumed, then remarks. */
const props = defineProps<{ reading: Reading; channels: Channels | null }>();
const emit = defineEmits<{ channels: [channels: Channels | null]; ask: [event: Event, sweep: Sweep] }>();

interface Kind {
  key: string;
  files: ReadFile[];
  asked: string[];
  assumed: string[];
  /** Columns with values that nothing is taken for, and nobody has said to leave out. */
  untaken: string[];
  remarks: string[];
  title: string;
}
const kinds = computed<Kind[]>(() => {
  const groups = new Map<string, ReadFile[]>();
  for (const file of props.reading.files) {
    if (file.file.startsWith(STANDING_FOLDER)) continue;
    const key = file.columns.length === 0 ? `refused/${file.file}` : `${file.device}/${file.columns.map(({ header }) => header).join('|')}`;
    groups.set(key, [...(groups.get(key) ?? []), file]);
  }
  return [...groups].map(([key, files]) => kindOf(key, files)).sort((a, b) => weight(b) - weight(a));
});
const weight = ({ asked, assumed, files }: Kind) => (files[0]!.columns.length === 0 ? 1000 : 0) + 10 * asked.length + assumed.length;

/** Reasons that assume what the file does not say. */
const ASSUMED: ReadonlySet<ReadReason['code']> = new Set(['unit-judged', 'unit-unsure', 'afr']);

function kindOf(key: string, files: ReadFile[]): Kind {
  const first = files[0]!;
  const asked = first.columns.flatMap(({ header, quantity, rivals, why }) =>
    quantity === null && rivals[0] ? [`“${header}”: perhaps ${quantityWords(rivals[0].quantity)}${why ? `; ${why}` : ''}`] : [],
  );
  const assumed = [
    ...first.columns.flatMap(({ header, quantity, reasons, sure }) => {
      const taken = reasons.filter(({ code }) => ASSUMED.has(code));
      return quantity !== null && sure < 1 && taken.length > 0 ? [`“${header}” as ${quantityWords(quantity)}: ${reasonsText(taken)}`] : [];
    }),
    ...(first.time === null && first.sweeps.length > 0 ? ['no time in it: a curve over engine speed'] : []),
  ];
  const problems = new Map<string, number>();
  for (const { file, problems: own } of files)
    for (const { row, what, todo } of own) {
      const text = `${files.length > 1 ? `${file.split('/').pop()}: ` : ''}${row === null ? '' : `row ${row}: `}${what} ${todo}`;
      problems.set(text, (problems.get(text) ?? 0) + 1);
    }
  const name = first.file.split('/').pop()!;
  return {
    key,
    files,
    asked,
    assumed,
    untaken: first.columns.flatMap(({ header, quantity, rivals, low, sure }) =>
      quantity === null && rivals.length === 0 && low !== null && sure < 1 ? [`“${header}”`] : [],
    ),
    remarks: [...problems.keys()].slice(0, 6),
    title:
      first.columns.length === 0
        ? `${name}: not read`
        : `${DEVICE_WORDS[first.device]}, ${files.length === 1 ? name : `${files.length} files (${name} …)`}`,
  };
}

const open = ref<string | null>(null);
const forAll = ref(true);
/** Under which key a decision about a file's column stands: all files of its device, or this one. */
const scopeOf = ({ files }: Kind) => (forAll.value ? files[0]!.device : `file:${files[0]!.file}`);
const decidedFor = (kind: Kind) => ({ ...props.channels?.[kind.files[0]!.device], ...props.channels?.[`file:${kind.files[0]!.file}`] });

function decide(kind: Kind, header: string, mapping: ChannelMapping | null): void {
  const scope = scopeOf(kind);
  const next: Channels = structuredClone({ ...props.channels });
  const own = { ...next[scope] };
  if (mapping) own[header] = mapping;
  else {
    delete own[header];
    if (next[kind.files[0]!.device]) delete next[kind.files[0]!.device]![header];
  }
  next[scope] = own;
  emit('channels', next);
}
const profiles = useProfiles();
const profileName = ref('');
const profileKept = ref<string | null>(null);

/** What was decided about a device, kept by a name and offered at its next files. */
async function keepProfile(kind: Kind): Promise<void> {
  const { device, columns } = kind.files[0]!;
  const name = profileName.value.trim() || `${DEVICE_WORDS[device]}, ${Object.keys(decidedFor(kind)).join(', ')}`.slice(0, 200);
  const kept = await profiles.save({
    format: 'gezeit-device-profile',
    version: 1,
    name,
    device,
    match: columns.map(({ header }) => header),
    channels: decidedFor(kind),
  });
  profileKept.value = kept ? `Kept as “${name}”.` : null;
}

function applyProfile(profile: DeviceProfile): void {
  const next: Channels = { ...props.channels };
  const fits = props.reading.files.filter((file) => fitsProfile(profile, file));
  for (const device of new Set(fits.map((entry) => entry.device))) next[device] = { ...next[device], ...profile.channels };
  emit('channels', next);
}

/** Saved profiles that know these files, and say something that is not decided yet. */
const offered = (kind: Kind): DeviceProfile[] => {
  const decided = decidedFor(kind);
  return profiles.profiles
    .map(({ profile }) => profile)
    .filter((profile) => fitsProfile(profile, kind.files[0]!) && Object.keys(profile.channels).some((header) => !(header in decided)));
};

/** Files that no pull has, each once, with what of them can be put into one. */
const left = computed(() => {
  const { files, pulls, unmatched } = props.reading;
  return [...new Map(unmatched.map((entry) => [entry.file, entry])).values()].flatMap((entry) => {
    const file = files.find((candidate) => candidate.file === entry.file);
    // One that could not be read says so above.
    if (!file || file.columns.length === 0) return [];
    // Neither a copy nor what nobody knows the time of has a place in a pull.
    const hasPlace = entry.copyOf === undefined && (file.time !== null || file.sweeps.length > 0);
    return [{ ...entry, sweeps: hasPlace ? freeSweeps(file, pulls) : [] }];
  });
});
const recognised = ({ columns }: ReadFile) => columns.filter(({ quantity }) => quantity !== null).length;
</script>

<template>
  <section class="files" aria-label="What was taken for what">
    <div class="title">
      <h2>What the files hold</h2>
      <SortProfiles :files="reading.files" @apply="applyProfile" />
    </div>
    <div v-for="kind in kinds" :key="kind.key" class="kind" :data-kind="kind.files[0]!.device">
      <button
        type="button"
        class="head"
        :aria-expanded="open === kind.key"
        :disabled="kind.files[0]!.columns.length === 0"
        @click="open = open === kind.key ? null : kind.key"
      >
        <b>{{ kind.title }}</b>
        <span v-if="kind.files[0]!.columns.length > 0" class="muted"
          >{{ recognised(kind.files[0]!) }} of {{ kind.files[0]!.columns.length }} columns known</span
        >
      </button>
      <p v-for="profile in offered(kind)" :key="profile.name" class="small offered">
        The profile <b>{{ profile.name }}</b> knows this device.
        <Button size="small" outlined label="Apply it" :aria-label="`Apply the profile ${profile.name}`" @click="applyProfile(profile)" />
      </p>
      <ul v-if="kind.asked.length + kind.untaken.length + kind.assumed.length + kind.remarks.length > 0">
        <li v-for="text in kind.asked" :key="text" class="asked">{{ text }}</li>
        <li v-if="kind.untaken.length > 0" class="asked">not taken for anything: {{ kind.untaken.join(', ') }}</li>
        <li v-for="text in kind.assumed" :key="text" class="assumed">{{ text }}</li>
        <li v-for="text in kind.remarks" :key="text">{{ text }}</li>
      </ul>
      <p v-else class="muted small">Every column that says something was read without a doubt.</p>
      <template v-if="open === kind.key">
        <label class="scope small"><input v-model="forAll" type="checkbox" />corrections count for every file of this device</label>
        <div v-if="Object.keys(decidedFor(kind)).length > 0" class="keep">
          <label class="small"
            >name of its profile <input v-model="profileName" type="text" maxlength="200" placeholder="Box of the workshop"
          /></label>
          <Button size="small" outlined label="Keep as a device profile" @click="keepProfile(kind)" />
          <span v-if="profileKept" role="status" class="small">{{ profileKept }}</span>
        </div>
        <ColumnTable
          :columns="kind.files[0]!.columns"
          :decided="decidedFor(kind)"
          @decide="(header, mapping) => decide(kind, header, mapping)"
        />
      </template>
    </div>
    <p v-for="entry in left" :key="entry.file" class="small left">
      <b>{{ shortName(entry.file) }}</b> belongs to no pull: {{ entry.why }}
      <Button
        v-for="sweep in entry.sweeps"
        :key="sweep.key"
        size="small"
        outlined
        v-bind="sayPull(sweep, entry.sweeps.length)"
        @click="emit('ask', $event, sweep)"
      />
    </p>
  </section>
</template>

<style scoped>
.title {
  display: flex;
  align-items: center;
  gap: 0.8rem;
}
.kind {
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--line);
}
.head {
  display: flex;
  gap: 0.8rem;
  width: 100%;
  font: inherit;
  text-align: left;
  background: none;
  border: 0;
  padding: 0.1rem 0;
  color: var(--ink);
  cursor: pointer;
}
.head::before {
  content: '▸';
  color: var(--green);
}
.head[aria-expanded='true']::before {
  content: '▾';
}
.head:disabled {
  cursor: default;
}
.head:disabled::before {
  content: '!';
  color: var(--brick);
}
ul {
  padding-left: 1.4rem;
  font-size: 13.5px;
}
.asked {
  font-weight: 600;
}
.assumed::marker,
.asked::marker {
  color: var(--amber);
}
.assumed::marker {
  content: '~ ';
}
.asked::marker {
  content: '? ';
}
.scope {
  display: flex;
  gap: 0.4rem;
  margin: 0.3rem 0;
}
.title {
  flex-wrap: wrap;
}
.offered,
.keep {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
  margin: 0.2rem 0;
}
.offered {
  padding-left: 0.6rem;
  border-left: 4px solid var(--green);
}
.keep input {
  font: inherit;
  background: var(--surface);
  color: var(--ink);
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.15rem 0.4rem;
  width: 16rem;
}
.left {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.5rem;
}
</style>
