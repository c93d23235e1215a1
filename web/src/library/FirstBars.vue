<script setup lang="ts">
/** The first bars of a tune that is not kept yet, engraved here. */
import { shallowRef, watchEffect } from 'vue';
import type { Tune } from '@nokta/core/music';
import type { EngravedLine } from '@nokta/engrave';
import { engraver } from '../workers/index.ts';

const props = defineProps<{ tune: Tune; title: string }>();

/** Pixels to a staff space. */
const SPACE = 5;
const PAUSE_MS = 60;
const picture = shallowRef<EngravedLine | null>(null);

watchEffect(async (stop) => {
  let stale = false;
  stop(() => (stale = true));
  const { tune } = props;
  // Rows that only fly past while scrolling ask for nothing.
  await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
  if (stale) return;
  const made = await engraver.engraveBars(tune, undefined, false).catch(() => null);
  if (!stale) picture.value = made;
});
</script>

<template>
  <div>
    <svg
      v-if="picture"
      class="engraved"
      role="img"
      :aria-label="`First bars of ${title}`"
      :viewBox="picture.viewBox"
      preserveAspectRatio="xMinYMid"
      :width="picture.width * SPACE"
      :height="picture.height * SPACE"
      v-html="picture.markup"
    />
  </div>
</template>

<style scoped>
svg {
  display: block;
  max-width: 100%;
  max-height: 56px;
}
</style>
