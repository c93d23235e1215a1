<script setup lang="ts" generic="Id extends string">
/** A few ways to choose from, each with what it means; one of them holds. */
defineProps<{
  label: string;
  choices: readonly { readonly id: Id; readonly name: string; readonly about: string }[];
  chosen: Id | undefined;
}>();
const emit = defineEmits<{ choose: [id: Id] }>();
</script>

<template>
  <div class="cards" role="group" :aria-label="label">
    <button
      v-for="{ id, name, about } in choices"
      :key="id"
      type="button"
      :aria-pressed="chosen === id"
      @click="emit('choose', id)"
    >
      <strong>{{ name }}</strong>
      <span>{{ about }}</span>
    </button>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  gap: 8px;
}
button {
  display: grid;
  gap: 2px;
  padding: 11px 14px;
  border: 1.5px solid var(--edge);
  border-radius: 10px;
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
button[aria-pressed='true'] {
  border-color: var(--accent);
  box-shadow: inset 5px 0 0 var(--accent);
}
span {
  font-size: 0.93rem;
}
</style>
