<script setup lang="ts">
/** For whom a book is made: as its tunes are arranged, for the players of a kept group, or for an instrument each. */
import { computed, ref, watch } from 'vue';
import type { Player } from '@nokta/core/files';
import { INSTRUMENT, INSTRUMENTS, type InstrumentId } from '@nokta/core/instrument';
import { useKept } from '../kept/store.ts';
import TickList from '../theme/parts/TickList.vue';

const props = defineProps<{ players: readonly Player[] }>();
const emit = defineEmits<{ choose: [players: readonly Player[]] }>();
const kept = useKept();

const AS_ARRANGED = 'as arranged';
const INSTRUMENTS_EACH = 'instruments';
const plain = (instrument: InstrumentId): Player => ({ name: '', instrument, make: null, grade: null, hand: null });
const isPlain = ({ name, make, grade, hand }: Player) =>
  name === '' && make === null && grade === null && hand === null;

const options = computed(() => [
  { value: AS_ARRANGED, title: 'As each tune is arranged' },
  { value: INSTRUMENTS_EACH, title: 'An edition for each instrument' },
  ...kept.of('group').map(({ id, name }) => ({ value: id, title: `${name}: an edition for each player` })),
]);
const chosen = ref(AS_ARRANGED);
watch(
  [() => props.players, () => kept.of('group')],
  ([players, groups]) => {
    if (players.length === 0) {
      if (chosen.value !== INSTRUMENTS_EACH) chosen.value = AS_ARRANGED;
      return;
    }
    const group = groups.find(({ value }) => JSON.stringify(value.players) === JSON.stringify(players));
    chosen.value = group?.id ?? (players.every(isPlain) ? INSTRUMENTS_EACH : chosen.value);
  },
  { immediate: true },
);
function choose(value: string): void {
  chosen.value = value;
  const group = kept.of('group').find(({ id }) => id === value);
  emit('choose', group ? group.value.players : value === INSTRUMENTS_EACH ? [plain('violin')] : []);
}
const ticks = computed(() =>
  INSTRUMENTS.map((id) => ({
    id,
    name: INSTRUMENT[id].name,
    on: props.players.some(({ instrument }) => instrument === id),
  })),
);
const toggle = (id: InstrumentId) =>
  emit(
    'choose',
    INSTRUMENTS.filter((one) => (one === id) !== props.players.some(({ instrument }) => instrument === one)).map(plain),
  );
</script>

<template>
  <v-select label="For whom" :items="options" :model-value="chosen" @update:model-value="choose" />
  <TickList v-if="chosen === INSTRUMENTS_EACH" label="Instruments" :items="ticks" @toggle="toggle" />
</template>
