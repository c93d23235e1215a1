<script setup lang="ts" generic="Id extends string">
/** A few things that are there or not, each with a tick. */
defineProps<{
  label: string;
  items: readonly { readonly id: Id; readonly name: string; readonly on: boolean; readonly soft?: boolean }[];
}>();
const emit = defineEmits<{ toggle: [id: Id] }>();
</script>

<template>
  <fieldset>
    <legend>{{ label }}</legend>
    <label v-for="{ id, name, on, soft } in items" :key="id" :class="{ soft }"
      ><input type="checkbox" :checked="on" @change="emit('toggle', id)" /> {{ name }}</label
    >
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 4px;
  font: 600 1.05rem var(--display);
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 26px;
}
input {
  width: 17px;
  height: 17px;
  accent-color: var(--accent);
}
.soft {
  color: var(--soft);
}
</style>
