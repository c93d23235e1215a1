<script setup lang="ts">
/**
 * A field for words of the tune: told once it is written. What is being typed is not overwritten by what
 * becomes known meanwhile.
 */
import { ref } from 'vue';
import { VTextField } from 'vuetify/components/VTextField';
import { VTextarea } from 'vuetify/components/VTextarea';

const props = defineProps<{ value: string; long?: boolean }>();
const emit = defineEmits<{ written: [text: string] }>();

/** What stood here when the field took the focus. */
const found = ref<string | null>(null);
const written = (event: Event) => emit('written', (event.target as HTMLInputElement).value);
</script>

<template>
  <component
    :is="props.long ? VTextarea : VTextField"
    :model-value="found ?? props.value"
    @focus="found = props.value"
    @blur="found = null"
    @change="written"
  />
</template>
