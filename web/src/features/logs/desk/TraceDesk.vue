<script setup lang="ts">
import type { DeskChannel } from '@gezeit/core';
import Button from 'primevue/button';
import { computed, ref, useTemplateRef } from 'vue';
import { useProgramme } from '../../../model/programme-store.js';
import ChartFrame from '../../../shared/charts/ChartFrame.vue';
import { useTheme } from '../../../shared/charts/theme-store.js';
import ChoiceInput from '../../../shared/form/ChoiceInput.vue';
import SeveralInput from '../../../shared/form/SeveralInput.vue';
import { saveTable } from '../../../shared/save.js';
import FailureNote from '../../../shared/ui/FailureNote.vue';
import { plain } from '../../../shared/units/show.js';
import { useShow } from '../../../shared/units/use-show.js';
import { checkMarks } from './check-marks.js';
import { deskLines, type DeskLine } from './desk-lines.js';
import { linesFigure, relationFigure, relationsOf } from './desk-figure.js';
import { useDesk } from './desk-store.js';
import { deskTable } from './desk-table.js';
import DeskBalance from './DeskBalance.vue';
import DeskChecks from './DeskChecks.vue';
import DeskChart from './DeskChart.vue';
import DeskReadout from './DeskReadout.vue';
import DeskViews from './DeskViews.vue';
import FormulaDialog from './FormulaDialog.vue';
import { useDeskSamples, type DeskSamples } from './use-desk-samples.js';

/** Any channels of any devices of any pulls together: over time, over engine speed or against each other, as they are or less one of them. */
const desk = useDesk();
const programme = useProgramme();
const themes = useTheme();
const show = useShow();
const { samples, failure, loading, whole } = useDeskSamples();
const chart = useTemplateRef<InstanceType<typeof DeskChart>>('chart');
const cursor = ref<number | null>(null);
const writing = ref(false);

const AXES = { time: 'over time', engineSpeed: 'over engine speed', channel: 'against a channel' };
const byFormulaName = computed(() => new Map(desk.formulaChannels.map(({ name, key }) => [name, key])));
const pullChoices = computed(() =>
  programme.view!.tide.pulls.map(({ id, setup }) => ({ key: id, label: `${id} ${setup}`, disabled: id === desk.ids[0] })),
);
const chosenPulls = computed({ get: () => desk.ids, set: (ids) => (desk.beside = ids.filter((id) => id !== desk.ids[0])) });
const chosenChannels = computed({ get: () => desk.drawnKeys, set: (keys) => (desk.chosen = keys) });
const againstChoices = computed(() => Object.fromEntries(desk.channels.map(({ key, label }) => [key, label])));
const lessChoices = computed(() => ({
  no: 'as they are',
  ...Object.fromEntries(desk.ids.map((id) => [id, `less ${id}`])),
}));
const less = computed(() =>
  desk.less !== null && desk.axis !== 'channel' ? (desk.pulls.find(({ id }) => id === desk.less) ?? null) : null,
);

function linesOf(channels: readonly DeskChannel[], of: DeskSamples, withFormulas: boolean): DeskLine[] {
  const several = desk.pulls.length > 1;
  const { tokens } = themes;
  return deskLines({
    pulls: desk.pulls,
    channels,
    formulas: withFormulas ? desk.drawnFormulas : [],
    byFormulaName: byFormulaName.value,
    axis: desk.axis,
    less: less.value,
    samples: of,
    show: show.value,
    colourOf: (pull, place) => (several ? programme.setupById.get(pull.setup)!.colour : place % 2 === 0 ? tokens.green : tokens.ink),
  });
}
const channelsOf = (keys: readonly string[]) => keys.map((key) => desk.channelByKey.get(key)).filter((channel) => channel !== undefined);
const lines = computed(() =>
  linesOf(channelsOf(desk.drawnKeys.filter((key) => desk.axis !== 'channel' || key !== desk.against)), samples.value, true),
);
const againstLines = computed(() =>
  desk.axis === 'channel' && desk.against ? linesOf(channelsOf([desk.against]), samples.value, false) : [],
);
const relations = computed(() => (desk.axis === 'channel' ? relationsOf(lines.value, againstLines.value) : null));
const againstUnit = computed(() => againstLines.value[0]?.unit ?? '');
const axisTitle = computed(
  () =>
    ({
      time: desk.pulls.some(({ lastsS }) => lastsS !== null) ? 's from the beginning of full throttle' : 's on the logger’s clock',
      engineSpeed: 'engine speed, rpm',
      channel: `${desk.channelByKey.get(desk.against ?? '')?.label ?? ''}, ${againstUnit.value}`,
    })[desk.axis],
);
/** Over time what was found lies where it was found. */
const marks = computed(() => (desk.axis === 'time' ? checkMarks(programme.view!.pulls.filter(({ id }) => desk.ids.includes(id))) : []));
/** What is seen of time is what was fetched, where nothing is chosen yet. */
const figure = computed(() => {
  const { tokens } = themes;
  if (relations.value) return relationFigure(relations.value, axisTitle.value, desk.span, tokens);
  const windows = desk.axis === 'time' ? desk.pulls.flatMap(({ lastsS }) => (lastsS === null ? [] : [{ endsAt: lastsS }])) : [];
  return linesFigure({
    lines: lines.value,
    title: axisTitle.value,
    span: desk.span,
    windows,
    isDifference: less.value !== null,
    marks: marks.value,
    tokens,
  });
});
const lacksChannel = computed(() => desk.axis === 'channel' && !desk.channelByKey.has(desk.against ?? ''));
const place = computed(() => {
  if (cursor.value === null) return null;
  return desk.axis === 'engineSpeed' ? `${plain(cursor.value, 0)} rpm` : `${plain(cursor.value, 3)} s from full throttle`;
});
const subtitle = computed(() => {
  if (less.value) return `each less ${less.value.id}, where both are known`;
  if (desk.axis === 'channel') return 'at the same moments of full throttle';
  return desk.axis === 'time' && desk.pulls.some(({ lastsS }) => lastsS !== null)
    ? `shaded: full throttle${marks.value.length > 0 ? '; amber: what a check found' : ''}`
    : '';
});

async function saveData(): Promise<void> {
  const everything = await whole(desk.span);
  const drawn = linesOf(
    channelsOf([...desk.drawnKeys, ...(desk.axis === 'channel' && desk.against ? [desk.against] : [])]),
    everything,
    true,
  );
  const header = desk.axis === 'engineSpeed' ? 'engine speed [rpm]' : 'time from full throttle [s]';
  await saveTable('traces.csv', deskTable(drawn, header, desk.axis === 'channel' ? null : desk.span));
}
</script>

<template>
  <FailureNote v-if="failure" :failure="failure" />
  <ChartFrame name="traces" title="Traces" :subtitle="subtitle" @save-svg="chart?.saveSvg('traces.svg')" @save-csv="saveData">
    <template #tools>
      <Button v-if="desk.span" text size="small" label="Show all (0)" @click="desk.span = null" />
      <DeskViews />
    </template>
    <div class="tools" role="group" aria-label="What lies on the desk">
      <SeveralInput
        v-model="chosenPulls"
        :choices="pullChoices"
        label="Pulls that are drawn"
        :said="desk.ids.length === 1 ? `pull ${desk.ids[0]}` : `${desk.ids.length} pulls`"
      />
      <SeveralInput
        v-model="chosenChannels"
        :choices="desk.channels"
        label="Channels that are drawn"
        :said="desk.drawnKeys.length === 1 ? '1 channel' : `${desk.drawnKeys.length} channels`"
        placeholder="Choose channels"
      />
      <ChoiceInput
        :model-value="desk.axis"
        :choices="AXES"
        label="Drawn over"
        @update:model-value="desk.axis = $event as typeof desk.axis"
      />
      <ChoiceInput
        v-if="desk.axis === 'channel'"
        v-model="desk.against"
        :choices="againstChoices"
        label="Against which channel"
        placeholder="which channel"
      />
      <ChoiceInput
        v-else-if="desk.ids.length > 1"
        :model-value="less?.id ?? 'no'"
        :choices="lessChoices"
        label="As they are, or less one pull"
        @update:model-value="desk.less = $event === 'no' ? null : $event"
      />
      <Button
        outlined
        size="small"
        :label="desk.formulas.length === 0 ? 'Formula' : `Formulas (${desk.formulas.length})`"
        @click="writing = true"
      />
    </div>
    <div class="desk">
      <DeskChart
        v-if="lines.length > 0 && !lacksChannel"
        ref="chart"
        :figure="figure"
        :label="`Traces of ${desk.ids.join(', ')} ${AXES[desk.axis]}`"
        :cursor="relations ? null : cursor"
        :pending="loading"
        @span="desk.span = $event"
        @cursor="cursor = $event"
      />
      <p v-else class="muted empty">
        {{
          loading
            ? 'Reading the traces…'
            : lacksChannel
              ? 'Choose the channel to draw against.'
              : 'Nothing of this was logged: choose other channels or pulls.'
        }}
      </p>
      <DeskReadout
        :lines="lines"
        :cursor="cursor"
        :place="place"
        :is-difference="less !== null"
        :relations="relations"
        :stretch="desk.axis === 'time' ? desk.span : null"
        :against-unit="againstUnit"
      />
    </div>
    <DeskBalance v-if="desk.axis === 'time' && desk.span" :samples="samples" :stretch="desk.span" />
    <DeskChecks />
  </ChartFrame>
  <FormulaDialog v-model:visible="writing" />
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  margin-bottom: 0.3rem;
}
.tools :deep(.p-select-label) {
  font-size: 13px;
}
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(16rem, 20rem);
  gap: 1.2rem;
}
.empty {
  min-height: 12rem;
}
@media (max-width: 800px) {
  .desk {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
