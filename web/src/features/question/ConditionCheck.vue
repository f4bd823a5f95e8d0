<script setup lang="ts">
import { CONDITION_ITEMS, type Condition, type ConditionItem } from '@gezeit/contract';
import { CONDITION_WORDS } from '@gezeit/core';
import { computed } from 'vue';
import TextEdit from '../../shared/form/TextEdit.vue';
import { usePerson } from '../../shared/person-store.js';
import { useProgramme } from '../../model/programme-store.js';
import { dayWords } from '../../shared/day-words.js';

/** The reference must be in service-new condition: a dirty filter flatters the new part. */
const programme = useProgramme();
const person = usePerson();
const answers = computed(() => new Map((programme.view!.bundle.condition ?? []).map((entry) => [entry.item, entry])));

async function answer(item: ConditionItem, state: Condition[number]['state'] | null, note?: string): Promise<void> {
  if (!(await person.ensure())) return;
  const what = state === null ? 'not answered' : state === 'good' ? 'in order' : 'not in order';
  void programme.edit('condition', `${CONDITION_WORDS[item]}: ${what}`, (now) => {
    const others = (now ?? []).filter((entry) => entry.item !== item);
    if (state === null) return others.length > 0 ? others : null;
    const before = (now ?? []).find((entry) => entry.item === item);
    return [...others, { ...before, item, state, note: note ?? before?.note ?? '', by: person.stamp, at: new Date().toISOString() }].sort(
      (a, b) => CONDITION_ITEMS.indexOf(a.item) - CONDITION_ITEMS.indexOf(b.item),
    );
  });
}
/** A note of more letters has a line of its own. */
const FITS_BESIDE = 18;
</script>

<template>
  <section aria-label="Condition before the first pull">
    <h2>Condition before the first pull</h2>
    <ul>
      <li v-for="item in CONDITION_ITEMS" :key="item" :class="answers.get(item)?.state ?? 'gap'">
        <span class="words">{{ CONDITION_WORDS[item] }}</span>
        <span class="choice" role="group" :aria-label="CONDITION_WORDS[item]">
          <button
            type="button"
            :aria-pressed="answers.get(item)?.state === 'good'"
            @click="answer(item, answers.get(item)?.state === 'good' ? null : 'good')"
          >
            yes
          </button>
          <button
            type="button"
            :aria-pressed="answers.get(item)?.state === 'not-good'"
            @click="answer(item, answers.get(item)?.state === 'not-good' ? null : 'not-good')"
          >
            no
          </button>
        </span>
        <template v-if="answers.get(item)">
          <TextEdit
            class="note"
            :class="{ long: (answers.get(item)!.note ?? '').length > FITS_BESIDE }"
            :model-value="answers.get(item)!.note"
            :label="`Note on ${CONDITION_WORDS[item]}`"
            placeholder="note"
            @commit="answer(item, answers.get(item)!.state, $event)"
          />
          <span class="muted small stamp" :title="answers.get(item)!.by"
            >{{ answers.get(item)!.by.split(' ')[0] }} {{ dayWords(answers.get(item)!.at) }}</span
          >
        </template>
        <span v-else class="muted small unanswered">not answered</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin-top: 0.2rem;
}
li {
  display: grid;
  grid-template-columns: minmax(10rem, 1fr) auto minmax(4rem, 0.8fr) 6.6rem;
  gap: 0 0.6rem;
  align-items: center;
  border-bottom: 1px solid var(--line);
  padding: 0.1rem 0;
}
.choice {
  display: inline-flex;
}
button {
  font: inherit;
  font-size: 13px;
  padding: 0.05rem 0.55rem;
  border: 1px solid var(--neutral);
  background: var(--surface);
  color: var(--ink);
  cursor: pointer;
}
button + button {
  border-left: 0;
}
button[aria-pressed='true'] {
  background: var(--green);
  color: var(--ground);
  border-color: var(--green);
}
.not-good button[aria-pressed='true'] {
  background: var(--brick);
  border-color: var(--brick);
}
.note {
  font-size: 13px;
  padding: 0.05rem 0.4rem;
}
.note.long {
  grid-row: 2;
  grid-column: 1 / -1;
  margin: 0.15rem 0;
}
.stamp {
  grid-row: 1;
  grid-column: 4;
  white-space: nowrap;
}
@media (max-width: 600px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .note.long,
  .stamp {
    grid-row: auto;
    grid-column: auto;
  }
  .note.long {
    grid-column: 1 / -1;
  }
}
.unanswered {
  grid-column: 3 / -1;
}
.unanswered::before {
  content: '◇ ';
}
</style>
