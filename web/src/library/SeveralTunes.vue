<script setup lang="ts">
/** Several tunes at once: what is known already comes first, each with its first bars; then what is wanted is kept. */
import { computed, watch } from 'vue';
import PillChoice from '../theme/parts/PillChoice.vue';
import FirstBars from './FirstBars.vue';
import { useImports } from './imports.ts';
import { useSeveral, type SeenTune, type Take, type Told } from './several.ts';
import { returnsFocus } from '../theme/focus.ts';

const shown = defineModel<boolean>({ required: true });
returnsFocus(shown);
const props = defineProps<{ sources: readonly (File | string)[] }>();

const ROW_HEIGHT = 74;
const imports = useImports();
const { known, fresh, unread, notices, total, seen, reading, taken, takeOf, take, read, stop, clear } = useSeveral();

watch(shown, (visible) => (visible ? void read(props.sources) : clear()), { immediate: true });

type Row = { readonly key: string; readonly tune: SeenTune } | { readonly key: string; readonly told: Told };
const rows = computed<readonly Row[]>(() => [
  ...known.value.map((tune) => ({ key: `tune-${tune.key}`, tune })),
  ...unread.value.map((told, index) => ({ key: `told-${index}`, told })),
  ...fresh.value.map((tune) => ({ key: `tune-${tune.key}`, tune })),
]);
const countText = computed(() =>
  [
    known.value.length > 0 && `${known.value.length} known already`,
    unread.value.length > 0 && `${unread.value.length} could not be read`,
    `${fresh.value.length} new`,
  ]
    .filter(Boolean)
    .join(' · '),
);

const CHOICES: readonly { readonly id: Take; readonly name: string }[] = [
  { id: 'own', name: 'Keep as their own' },
  { id: 'name', name: 'Only their names' },
  { id: 'out', name: 'Leave out' },
];
/** What holds for all that are known; null where they differ. */
const allKnown = computed<Take | null>(() => {
  const ways = new Set(known.value.map(({ key }) => takeOf(key)));
  return ways.size === 1 ? [...ways][0]! : null;
});
const waysFor = ({ alike }: SeenTune) => [
  { value: 'own', title: 'Keep it as its own' },
  { value: 'name', title: `Only its name, with “${alike[0]!.title}”` },
  { value: 'out', title: 'Leave it out' },
];
const keepText = computed(() => `Keep ${taken.value.length} ${taken.value.length === 1 ? 'tune' : 'tunes'}`);

function keep(): void {
  const chosen = taken.value.map(({ key, held, file, alike }) => ({
    held,
    file,
    alike,
    nameOf: takeOf(key) === 'name' ? alike[0]! : null,
  }));
  void imports.run(chosen, { skipped: unread.value, notices: notices.value });
  shown.value = false;
}
</script>

<template>
  <v-dialog v-model="shown" max-width="980" aria-labelledby="several-title">
    <v-card class="several">
      <header>
        <h2 id="several-title">Bring several tunes in</h2>
        <p class="soft">Nothing is kept until you say so.</p>
      </header>
      <p v-if="reading" class="line" role="status">
        Reading… {{ seen.toLocaleString('en') }} of {{ total.toLocaleString('en') }}
        <progress :value="seen" :max="total || 1" aria-hidden="true" />
        <v-btn size="small" variant="outlined" @click="stop()">Stop</v-btn>
      </p>
      <p v-else class="line" role="status">
        {{ countText }}<span v-if="seen < total" class="soft">stopped after {{ seen }} of {{ total }}</span>
      </p>
      <div v-if="known.length > 1" class="line">
        <span id="all-known">All that are known:</span>
        <PillChoice
          label="All that are known"
          :choices="CHOICES"
          :chosen="allKnown"
          @choose="
            take(
              known.map(({ key }) => key),
              $event,
            )
          "
        />
      </div>
      <v-virtual-scroll
        v-if="rows.length > 0"
        class="rows"
        role="list"
        aria-label="Tunes in these files"
        tabindex="0"
        :items="rows"
        :item-height="ROW_HEIGHT"
        item-key="key"
      >
        <template #default="{ item }">
          <div class="row" role="listitem" :style="{ height: `${ROW_HEIGHT}px` }">
            <template v-if="'tune' in item">
              <input
                type="checkbox"
                :aria-label="`Keep ${item.tune.title}`"
                :checked="takeOf(item.tune.key) !== 'out'"
                @change="take([item.tune.key], takeOf(item.tune.key) === 'out' ? 'own' : 'out')"
              />
              <div class="name">
                <strong>{{ item.tune.title }}</strong>
                <span class="soft">{{ item.tune.about }}</span>
              </div>
              <FirstBars class="first" :tune="item.tune.firstBars" :title="item.tune.title" />
              <div v-if="item.tune.alike.length > 0" class="known">
                <span>You have it: {{ item.tune.alike[0]!.title }} ({{ item.tune.alike[0]!.key }})</span>
                <v-select
                  density="compact"
                  hide-details
                  :label="`What becomes of ${item.tune.title}`"
                  :items="waysFor(item.tune)"
                  :model-value="takeOf(item.tune.key)"
                  @update:model-value="take([item.tune.key], $event as Take)"
                />
              </div>
              <span v-else class="soft">{{ item.tune.file }}</span>
            </template>
            <template v-else>
              <span class="out" aria-hidden="true">–</span>
              <div class="name">
                <strong>{{ item.told.title }}</strong>
                <span class="soft">{{ item.told.file }}</span>
              </div>
              <span class="reason">Could not be read. {{ item.told.reason }}</span>
            </template>
          </div>
        </template>
      </v-virtual-scroll>
      <details v-if="notices.length > 0 && !reading">
        <summary>{{ notices.length }} {{ notices.length === 1 ? 'thing' : 'things' }} to know</summary>
        <ul>
          <li v-for="(notice, index) in notices.slice(0, 60)" :key="index">
            <strong>{{ notice.title }}</strong> {{ notice.reason }}
          </li>
        </ul>
      </details>
      <footer>
        <v-btn @click="shown = false">Cancel</v-btn>
        <v-btn
          variant="flat"
          color="primary"
          :disabled="reading || taken.length === 0 || imports.running"
          @click="keep"
          >{{ keepText }}</v-btn
        >
      </footer>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.several {
  display: flex;
  flex-direction: column;
  gap: 10px;
  max-height: 92dvh;
  padding: 18px 24px;
}
header,
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}
h2,
p {
  margin: 0;
}
.soft {
  color: var(--soft);
}
.rows {
  flex: 1 1 auto;
  min-height: 220px;
  border-top: 1px solid var(--edge);
  border-bottom: 1px solid var(--edge);
}
.row {
  display: grid;
  grid-template-columns: 24px minmax(0, 5fr) minmax(0, 6fr) minmax(0, 5fr);
  align-items: center;
  gap: 12px;
  padding: 4px 6px;
  border-bottom: 1px solid var(--edge);
}
.name,
.known {
  display: grid;
  min-width: 0;
}
.name > *,
.known > span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.known {
  gap: 2px;
  font-size: 0.9rem;
}
.reason {
  grid-column: span 2;
  max-height: 66px;
  overflow: auto;
  color: rgb(var(--v-theme-error));
}
.out {
  text-align: center;
}
input[type='checkbox'] {
  width: 20px;
  height: 20px;
  accent-color: var(--accent);
}
progress {
  width: 160px;
  accent-color: var(--accent);
}
details ul {
  max-height: 18vh;
  margin: 4px 0 0;
  overflow: auto;
}
footer {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
}
@media (width < 720px) {
  .several {
    padding: 14px;
  }
  .row {
    grid-template-columns: 24px minmax(0, 1fr) minmax(0, 1fr);
  }
  .first {
    display: none;
  }
}
</style>
