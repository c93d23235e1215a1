<script setup lang="ts">
/** One thing to filter by: what there is of it, how many tunes each, several at once. */
import { computed } from 'vue';
import { mdiMenuDown } from '@mdi/js';
import type { Facet } from '@nokta/api';

const chosen = defineModel<string[]>({ required: true });
const props = defineProps<{ label: string; facets: readonly Facet[] }>();

const text = computed(() =>
  chosen.value.length === 0
    ? props.label
    : chosen.value.length === 1
      ? chosen.value[0]
      : `${chosen.value[0]} +${chosen.value.length - 1}`,
);

function toggle(value: string): void {
  chosen.value = chosen.value.includes(value) ? chosen.value.filter((one) => one !== value) : [...chosen.value, value];
}
</script>

<template>
  <v-menu :close-on-content-click="false">
    <template #activator="{ props: menu }">
      <button
        v-bind="menu"
        type="button"
        class="filter"
        :class="{ on: chosen.length > 0 }"
        :aria-label="chosen.length > 0 ? `${label}: ${chosen.join(', ')}` : label"
      >
        {{ text }}<v-icon :icon="mdiMenuDown" size="18" />
      </button>
    </template>
    <fieldset class="choices">
      <legend class="visually-hidden">{{ label }}</legend>
      <p v-if="facets.length === 0">No tune has one yet.</p>
      <label v-for="facet in facets" :key="facet.value">
        <input type="checkbox" :checked="chosen.includes(facet.value)" @change="toggle(facet.value)" />
        <span>{{ facet.value }}</span>
        <span class="count">{{ facet.tunes }}</span>
      </label>
      <v-btn v-if="chosen.length > 0" size="small" @click="chosen = []">Any {{ label.toLowerCase() }}</v-btn>
    </fieldset>
  </v-menu>
</template>

<style scoped>
.filter {
  display: inline-flex;
  align-items: center;
  max-width: 170px;
  min-height: 34px;
  padding: 3px 6px 3px 13px;
  overflow: hidden;
  border: 1px solid var(--edge);
  border-radius: 17px;
  background: var(--paper);
  color: var(--ink);
  font: inherit;
  white-space: nowrap;
  cursor: pointer;
}
.filter.on {
  border: 2px solid var(--accent);
  font-weight: 700;
}
.choices {
  display: grid;
  gap: 2px;
  max-height: 60vh;
  min-width: 190px;
  overflow: auto;
  padding: 10px 14px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--paper);
  color: var(--ink);
}
label {
  display: flex;
  align-items: center;
  gap: 9px;
  padding: 4px 0;
  cursor: pointer;
}
input {
  width: 17px;
  height: 17px;
  accent-color: var(--accent);
}
.count {
  margin-left: auto;
  padding-left: 16px;
  color: var(--soft);
}
p {
  margin: 0;
}
</style>
