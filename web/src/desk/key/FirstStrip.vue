<script setup lang="ts">
/** The first strip as it would be. A picture only: its notes are not those of the tune. */
import { shallowRef, watch } from 'vue';
import { phraseLine } from '@nokta/core/arrange';
import type { KeyDecisions } from '@nokta/core/instrument';
import type { EngravedLine } from '@nokta/engrave';
import { engraver } from '../../workers/index.ts';
import { STALE } from '../../workers/protocol.ts';
import StripPicture from '../shared/StripPicture.vue';
import { stripViews, type StripView } from '../rooms/strips.ts';
import { useDesk } from '../rooms/store.ts';

/** What would be decided; null shows nothing. */
const props = defineProps<{ change: Partial<KeyDecisions> | null }>();
const desk = useDesk();
const preview = shallowRef<{ readonly view: StripView; readonly staff: EngravedLine } | null>(null);
let shown = 0;
watch(
  () => JSON.stringify(props.change),
  async () => {
    const own = (shown += 1);
    preview.value = null;
    if (!props.change) return;
    const facts = await desk.ask('underKey', { ...props.change });
    if (facts === STALE || own !== shown) return;
    const [view] = stripViews(facts);
    if (!view) return;
    const staff = await engraver.engrave(phraseLine(facts.staff, view.phrase), facts.instrument, false);
    if (own === shown) preview.value = { view, staff };
  },
  { immediate: true },
);
</script>

<template>
  <StripPicture
    v-if="preview && change"
    class="preview"
    aria-hidden="true"
    :view="preview.view"
    :staff="preview.staff"
    :lanes="['tab', 'hand']"
  />
</template>
