<script setup lang="ts" generic="Id extends string">
/** A few short names side by side; one of them holds, or none. */
defineProps<{
  label: string;
  choices: readonly { readonly id: Id; readonly name: string }[];
  chosen: Id | null;
}>();
const emit = defineEmits<{ choose: [id: Id] }>();
</script>

<template>
  <div class="pills" role="group" :aria-label="label">
    <v-btn
      v-for="{ id, name } in choices"
      :key="id"
      size="small"
      :variant="chosen === id ? 'flat' : 'outlined'"
      :color="chosen === id ? 'primary' : undefined"
      :aria-pressed="chosen === id"
      @click="emit('choose', id)"
      >{{ name }}</v-btn
    >
  </div>
</template>

<style scoped>
.pills {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
