<script setup lang="ts">
/** The page as it is printed, large enough to read, in the place of the strips. A click on a note leads back to it. */
import { onBeforeUnmount, onMounted } from 'vue';
import { mdiChevronLeft, mdiChevronRight, mdiMagnifyMinusOutline, mdiMagnifyPlusOutline } from '@mdi/js';
import { useSheet } from './store.ts';

const emit = defineEmits<{ note: [id: string] }>();
const sheet = useSheet();
onMounted(() => (sheet.wanted = true));
onBeforeUnmount(() => (sheet.wanted = false));

function leadBack(event: MouseEvent): void {
  const note = (event.target as Element).closest('[data-note]')?.getAttribute('data-note');
  if (note) emit('note', note);
}
</script>

<template>
  <section class="sheet" aria-label="The sheet">
    <p v-if="sheet.failure" role="alert">{{ sheet.failure }}</p>
    <p v-else-if="sheet.pages.length === 0" role="status">Laying out the sheet…</p>
    <template v-else>
      <div class="bar" role="group" aria-label="Page">
        <v-btn
          :icon="mdiChevronLeft"
          size="small"
          aria-label="Page before"
          :disabled="sheet.page === 0"
          @click="sheet.turn(-1)"
        />
        <span role="status">Page {{ sheet.page + 1 }} of {{ sheet.pages.length }}</span>
        <v-btn
          :icon="mdiChevronRight"
          size="small"
          aria-label="Page after"
          :disabled="sheet.page === sheet.pages.length - 1"
          @click="sheet.turn(1)"
        />
        <v-btn :icon="mdiMagnifyMinusOutline" size="small" aria-label="Smaller" @click="sheet.zoomBy(-1)" />
        <v-btn :icon="mdiMagnifyPlusOutline" size="small" aria-label="Larger" @click="sheet.zoomBy(1)" />
      </div>
      <div class="room" tabindex="0" aria-label="Page, scrolls">
        <div
          class="page"
          role="img"
          :aria-label="`Page ${sheet.page + 1} of ${sheet.pages.length}`"
          :style="{ width: `${100 * sheet.zoom}%` }"
          @click="leadBack"
          v-html="sheet.pages[sheet.page]"
        />
      </div>
    </template>
  </section>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  height: 100%;
}
.bar {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 8px;
  padding-bottom: 6px;
}
.room {
  overflow: auto;
  border-radius: 10px;
}
.page {
  margin: 0 auto;
  background: #fff;
  box-shadow: 0 2px 8px rgb(0 0 0 / 18%);
}
.page :deep(svg) {
  display: block;
  width: 100%;
  height: auto;
}
.page :deep([data-note]) {
  cursor: pointer;
}
</style>
