<script setup lang="ts">
/** The lesson, step by step: in another order, without a step, with one more than once; how long it takes. */
import { computed, ref } from 'vue';
import { mdiDragVertical, mdiPlus } from '@mdi/js';
import { LESSON_MINUTES } from '@nokta/core/arrange';
import { minutesOf } from '@nokta/core/practice';
import MoveButtons from '../../theme/parts/MoveButtons.vue';
import { useReorder } from '../../theme/parts/reorder.ts';
import { useLessonPlan, usePlanActions } from '../../stand/plan.ts';

const plan = useLessonPlan();
const actions = usePlanActions(plan);
const { classOf, rowOf } = useReorder(actions.move);

const about = computed(() => Math.ceil(minutesOf(plan.value)));
const minutes = computed(() => actions.wished.value.minutes);
const tooLong = computed(() => minutes.value !== null && about.value > minutes.value);
/** The list of a long tune is put together when it is asked for. */
const FEW = 16;
const opened = ref<boolean | null>(null);
const isOpen = computed(() => opened.value ?? plan.value.length <= FEW);
const isOwn = computed(() => {
  const { order, out } = actions.wished.value;
  return order !== null || Object.keys(out).length > 0;
});
function setMinutes(text: string): void {
  const value = Math.round(Number(text));
  actions.setMinutes(text.trim() && value >= LESSON_MINUTES.least && value <= LESSON_MINUTES.most ? value : null);
}
</script>

<template>
  <section aria-labelledby="lesson-title">
    <h3 id="lesson-title">The lesson</h3>
    <p class="time" :class="{ long: tooLong }">
      About {{ about }} minutes<template v-if="minutes !== null"> of {{ minutes }}</template
      ><template v-if="tooLong">: leave something out, or for next time</template>.
    </p>
    <v-btn v-if="plan.length > FEW" variant="outlined" size="small" :aria-expanded="isOpen" @click="opened = !isOpen">{{
      isOpen ? 'Fold' : `Its ${plan.length} steps`
    }}</v-btn>
    <ol v-if="isOpen">
      <li
        v-for="(step, index) in plan"
        :key="step.key"
        draggable="true"
        :class="[classOf(index), { out: step.out }]"
        v-on="rowOf(index)"
      >
        <v-icon class="grip" :icon="mdiDragVertical" size="18" aria-hidden="true" />
        <label>
          <input
            type="checkbox"
            :checked="!step.out"
            :aria-label="`${step.label}, about ${step.minutes} min`"
            @change="actions.toggle(index)"
          />
          <span aria-hidden="true">{{ step.label }}</span>
          <small aria-hidden="true">{{ step.minutes }} min</small>
        </label>
        <v-btn
          :icon="mdiPlus"
          size="x-small"
          :aria-label="`${step.label} once more`"
          title="Once more"
          @click="actions.repeat(index)"
        />
        <MoveButtons :name="step.label" :index="index" :count="plan.length" @move="actions.move(index, $event)" />
      </li>
    </ol>
    <div class="row">
      <v-text-field
        label="Minutes"
        type="number"
        :min="LESSON_MINUTES.least"
        :max="LESSON_MINUTES.most"
        :model-value="minutes ?? ''"
        @change="setMinutes(($event.target as HTMLInputElement).value)"
      />
      <v-btn v-if="isOwn" variant="outlined" @click="actions.fromTune()">As it comes</v-btn>
    </div>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
}
h3 {
  margin: 0;
  font: 600 1.05rem var(--display);
}
.time {
  margin: 0;
}
.long {
  padding-left: 8px;
  border-left: 3px solid var(--accent);
}
ol {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  border: 1px solid var(--edge);
  border-radius: 8px;
  cursor: grab;
}
li.over {
  border-top: 3px solid var(--accent);
}
li.dragged {
  opacity: 0.5;
}
.out span {
  text-decoration: line-through;
}
.grip {
  color: var(--soft);
}
label {
  display: flex;
  flex: 1;
  align-items: baseline;
  gap: 7px;
  padding: 5px 0;
  cursor: pointer;
}
small {
  margin-left: auto;
  color: var(--soft);
}
.row {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
