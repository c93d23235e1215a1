<script setup lang="ts">
/** What to know of the tune before anyone fingers a note. Pointing at a line shows its notes on the strips. */
import { computed, shallowRef, watch } from 'vue';
import { storeToRefs } from 'pinia';
import { placesOf } from '@nokta/core/arrange';
import { lookOverText, type LookOverWords } from '@nokta/core/words';
import { STALE } from '../../workers/protocol.ts';
import HintLine from '../shared/HintLine.vue';
import { useDesk } from '../rooms/store.ts';
import { useLook } from '../../settings/look.ts';

const desk = useDesk();
const { names } = storeToRefs(useLook());
const look = shallowRef<LookOverWords | null>(null);

watch(
  [() => desk.arrangement, names],
  async ([facts]) => {
    const found = facts && (await desk.ask('lookOver'));
    if (found && found !== STALE && facts === desk.arrangement)
      look.value = lookOverText(found, facts.instrument, names.value);
  },
  { immediate: true },
);
const places = computed(() =>
  desk.arrangement ? placesOf(desk.arrangement.tune) : new Map<string, { bar: number }>(),
);
</script>

<template>
  <div v-if="look" class="look">
    <dl>
      <dt>Key</dt>
      <dd>
        {{ look.key }}
        <p v-if="look.doubt" class="doubt">{{ look.doubt }}</p>
      </dd>
      <dt>Notes</dt>
      <dd>
        {{ look.scale.join(' ')
        }}<template v-if="look.missing.length > 0"><br />no {{ look.missing.join(', ') }}</template>
      </dd>
      <template v-if="look.outside.length > 0">
        <dt>Outside</dt>
        <dd>
          <HintLine v-for="{ name, bars, notes } in look.outside" :key="name" :notes="notes">
            {{ name }} in {{ bars.length === 1 ? 'bar' : 'bars' }} {{ bars.join(', ') }}
          </HintLine>
        </dd>
      </template>
      <dt>Home</dt>
      <dd>
        <span v-for="place in look.home" :key="place" class="row">{{ place }}</span>
        <span v-if="look.home.length === 0">not in the tune</span>
      </dd>
      <template v-if="look.range">
        <dt>Range</dt>
        <dd>{{ look.range.low }} to {{ look.range.high }}</dd>
      </template>
      <dt>Starts</dt>
      <dd>on {{ look.startsOn }}{{ look.pickup ? `, ${look.pickup}` : '' }}</dd>
      <dt>Form</dt>
      <dd>{{ look.form }}, {{ look.lengths }}; {{ look.repeats }}; {{ look.played }} bars played</dd>
      <dt>Rhythms</dt>
      <dd>
        {{ look.rhythms.map(({ text, times }) => `${text} ×${times}`).join('; ') }}
      </dd>
      <template v-if="look.chords">
        <dt>Chords</dt>
        <dd>{{ look.chords.names.join(' ') }}; {{ look.chords.text }}</dd>
      </template>
      <dt>Tempo</dt>
      <dd>
        {{ look.tempo }}<template v-if="look.usualTempo"><br />usual: {{ look.usualTempo }}</template>
      </dd>
      <template v-if="look.hard.length > 0">
        <dt>Hardest</dt>
        <dd>
          <HintLine v-for="{ reasons, notes } in look.hard" :key="notes[0]" :notes="notes">
            bar {{ places.get(notes[0]!)?.bar }}: {{ reasons.join(', ') }}
          </HintLine>
        </dd>
      </template>
    </dl>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 12px;
  margin: 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
.row {
  display: block;
}
.doubt {
  margin: 2px 0 0;
  padding-left: 9px;
  border-left: 3px solid var(--accent);
}
</style>
