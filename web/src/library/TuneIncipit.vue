<script setup lang="ts">
/** The first bars of a tune, or the place that was looked for, with its notes marked. */
import type { Incipit, MelodyPlace } from '@nokta/api';
import { incipitFor } from './incipits.ts';
import { useLatePicture } from './latePicture.ts';

const props = defineProps<{ id: string; revision: number; title: string; place?: MelodyPlace | undefined }>();

/** Pixels to a staff space. */
const SPACE = 5.4;
const picture = useLatePicture(() => {
  const { id, revision, place } = props;
  return () => incipitFor(id, revision, place);
});

/** The marked heads stand out by their size and ring, not by colour alone. */
function markedMarkup({ markup, marked }: Incipit): string {
  return marked.reduce((text, id) => text.replaceAll(`data-note="${id}"`, `data-note="${id}" class="found"`), markup);
}
</script>

<template>
  <!-- There before its picture: nothing in the row moves when that comes. -->
  <div class="first">
    <span v-if="picture && place" class="bar">bar {{ picture.bar }}</span>
    <svg
      v-if="picture"
      class="incipit engraved"
      role="img"
      :aria-label="place ? `Where it stands in ${title}` : `First bars of ${title}`"
      :viewBox="picture.viewBox"
      preserveAspectRatio="xMinYMid"
      :width="picture.width * SPACE"
      :height="picture.height * SPACE"
      v-html="markedMarkup(picture)"
    />
  </div>
</template>

<style scoped>
.first {
  display: flex;
  align-items: center;
  gap: 8px;
}
.bar {
  flex: none;
  width: 46px;
  color: var(--soft);
  font-size: 0.85rem;
}
.incipit {
  display: block;
  max-width: 100%;
  max-height: 62px;
}
.incipit :deep(.found) {
  color: var(--accent);
  fill: var(--accent);
  stroke: var(--accent);
  stroke-width: 60px;
}
</style>
