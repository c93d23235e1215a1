<script setup lang="ts">
/** The first bars of a tune that is not kept yet, engraved here. */
import type { Tune } from '@nokta/core/music';
import { engraver } from '../workers/index.ts';
import { useLatePicture } from './latePicture.ts';

const props = defineProps<{ tune: Tune; title: string }>();

/** Pixels to a staff space. */
const SPACE = 5;
const picture = useLatePicture(() => {
  const { tune } = props;
  return () => engraver.engraveBars(tune, undefined, false);
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
