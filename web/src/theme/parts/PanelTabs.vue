<script setup lang="ts" generic="Id extends string">
/** The pages of a panel. */
defineProps<{ label: string; tabs: readonly { readonly id: Id; readonly label: string }[] }>();
const chosen = defineModel<Id>({ required: true });
</script>

<template>
  <div class="tabs">
    <div role="tablist" :aria-label="label">
      <button
        v-for="tab in tabs"
        :key="tab.id"
        type="button"
        role="tab"
        :aria-selected="chosen === tab.id"
        @click="chosen = tab.id"
      >
        {{ tab.label }}
      </button>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  align-items: center;
  gap: 2px;
  border-bottom: 1px solid var(--edge);
}
[role='tablist'] {
  display: flex;
  flex-wrap: wrap;
  min-width: 0;
}
[role='tab'] {
  padding: 4px 6px 6px;
  border: 0;
  background: none;
  border-bottom: 3px solid transparent;
  color: inherit;
  font: inherit;
  font-size: 0.9rem;
  white-space: nowrap;
  cursor: pointer;
}
[aria-selected='true'] {
  border-bottom-color: var(--accent);
  font-weight: 700;
}
</style>
