<script setup lang="ts">
/** The workshop: what is done with an instrument in the hand, and no tune on the desk. */
import { computed, onMounted } from 'vue';
import { useRouter } from 'vue-router';
import { useKept } from '../kept/store.ts';
import AppHeader from '../theme/parts/AppHeader.vue';
import ScalesTool from './ScalesTool.vue';
import TapesTool from './TapesTool.vue';
import TunerTool from './TunerTool.vue';
import { useWorkshop } from './store.ts';
import { TOOLS, type ToolId } from './tools.ts';

const props = defineProps<{ tool: ToolId }>();
const router = useRouter();
const workshop = useWorkshop();
const kept = useKept();
onMounted(() => void kept.load());
const VIEWS = { tuner: TunerTool, tapes: TapesTool, scales: ScalesTool } as const;
const view = computed(() => VIEWS[props.tool]);
const instruments = computed(() => {
  const items = workshop.choices.map(({ name }, value) => ({ value, title: name }));
  // One that was measured is kept nowhere, and is on the bench all the same.
  return workshop.chosen < 0 ? [...items, { value: -1, title: workshop.instrument.name }] : items;
});
function choose(at: number): void {
  const choice = workshop.choices[at];
  if (choice) workshop.choose(choice.like, choice.make);
}
</script>

<template>
  <div class="workshop">
    <AppHeader place="workshop" />
    <main>
      <div class="head">
        <h1>Workshop</h1>
        <div role="tablist" aria-label="Tools">
          <button
            v-for="{ id, label } in TOOLS"
            :key="id"
            type="button"
            role="tab"
            :aria-selected="id === tool"
            @click="router.push({ name: 'workshop', params: { tool: id } })"
          >
            {{ label }}
          </button>
        </div>
        <v-select
          class="choice"
          label="Instrument"
          :items="instruments"
          :model-value="workshop.chosen"
          @update:model-value="choose"
        />
        <v-select
          class="choice"
          label="Tuning"
          :items="workshop.tuningItems"
          :model-value="workshop.tuning.id"
          @update:model-value="workshop.tune"
        />
      </div>
      <component :is="view" />
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 1180px;
  margin: 0 auto;
  padding: 14px 16px 30px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
  margin-bottom: 14px;
}
h1 {
  margin: 0;
  font-size: 1.5rem;
}
[role='tablist'] {
  display: flex;
  flex: 1;
}
[role='tab'] {
  padding: 7px 14px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
[role='tab'][aria-selected='true'] {
  border-bottom-color: var(--accent);
  font-weight: 700;
}
.choice {
  max-width: 260px;
}
</style>
