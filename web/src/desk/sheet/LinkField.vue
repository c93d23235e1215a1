<script setup lang="ts">
/** The address of a page to practise with, which a sheet prints as a square. */
import { ref, watch } from 'vue';
import { MOST_LINK, linkSchema } from '@nokta/core/paper';
import { useDesk } from '../rooms/store.ts';

const desk = useDesk();
const kept = () => desk.record?.decisions.sheet.link ?? '';
const address = ref('');
const wrong = ref<string[]>([]);
watch(kept, (text) => (address.value = text), { immediate: true });

function keep(): void {
  const text = address.value.trim();
  const read = linkSchema.nullable().safeParse(text || null);
  wrong.value = read.success ? [] : read.error.issues.map(({ message }) => message);
  if (read.success && text !== kept()) void desk.decide({ sheet: { link: read.data } }, 'the address on the sheet');
}
</script>

<template>
  <v-text-field
    v-model="address"
    label="A page to practise with"
    type="url"
    inputmode="url"
    placeholder="https://"
    :maxlength="MOST_LINK"
    :error-messages="wrong"
    hint="Printed as a square that a telephone reads."
    persistent-hint
    @blur="keep"
    @keydown.enter.prevent="keep"
  />
</template>
