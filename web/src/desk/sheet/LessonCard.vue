<script setup lang="ts">
/** What a sheet says of the lesson that it goes home from: whose, when, what for; and lines to write on. */
import { computed, ref, watch } from 'vue';
import { MOST_NEXT, MOST_WRITING_LINES, NO_LESSON_NOTE, type LessonNote } from '@nokta/core/paper';
import { useLook } from '../../settings/look.ts';
import { useDesk } from '../rooms/store.ts';
import LinkField from './LinkField.vue';

const desk = useDesk();
const look = useLook();
const note = computed(() => desk.record?.decisions.sheet.lesson ?? NO_LESSON_NOTE);
const keep = (some: Partial<LessonNote>) =>
  void desk.decide({ sheet: { lesson: { ...note.value, ...some } } }, 'what the sheet says of the lesson');

/** Kept when the field is left, not letter by letter. */
const next = ref('');
watch(
  () => note.value.next,
  (text) => (next.value = text),
  { immediate: true },
);
const keepNext = () => next.value !== note.value.next && keep({ next: next.value });

const lines = Array.from({ length: MOST_WRITING_LINES + 1 }, (_, value) => ({
  value,
  title: value === 0 ? 'None' : String(value),
}));
const today = () => {
  const now = new Date();
  return [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((part) => String(part).padStart(2, '0')).join('-');
};
</script>

<template>
  <div class="lesson">
    <v-switch
      label="Name, date and practice boxes at the top"
      :model-value="look.style.lesson"
      @update:model-value="look.change({ lesson: Boolean($event) })"
    />
    <template v-if="look.style.lesson">
      <div class="row">
        <v-text-field
          label="Date"
          type="date"
          :model-value="note.date ?? ''"
          @update:model-value="keep({ date: $event ? String($event) : null })"
        />
        <v-btn v-if="note.date !== today()" variant="outlined" @click="keep({ date: today() })">Today</v-btn>
      </div>
      <v-textarea
        v-model="next"
        label="For next time"
        rows="2"
        auto-grow
        :maxlength="MOST_NEXT"
        placeholder="Left empty, there are lines to write on."
        @blur="keepNext"
        @keydown.enter.exact.prevent="keepNext"
      />
    </template>
    <LinkField />
    <v-select
      label="Empty lines under each phrase"
      :items="lines"
      :model-value="look.style.writingLines"
      @update:model-value="look.change({ writingLines: $event })"
    />
  </div>
</template>

<style scoped>
.lesson {
  display: grid;
  gap: 8px;
}
.row {
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>
