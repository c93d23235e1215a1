<script setup lang="ts">
/** Another way of doing something: what it is, what it costs and why; a press takes it. */
defineProps<{ title: string; price: string; reasons: readonly string[]; sign?: string | undefined }>();
</script>

<template>
  <button type="button" class="way" :class="{ signed: sign }">
    <span v-if="sign" class="sign">{{ sign }}</span>
    <span>
      <component :is="sign ? 'span' : 'strong'">{{ title }}</component>
      <small>{{ price }}<template v-if="reasons.length > 0">: {{ reasons.join(', ') }}</template></small>
    </span>
  </button>
</template>

<style scoped>
.way {
  display: flex;
  gap: 10px;
  align-items: center;
  width: 100%;
  padding: 5px 6px;
  border: 0;
  border-left: 3px solid var(--edge);
  background: none;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.signed {
  padding: 4px 6px;
  border-left: 0;
  border-radius: 8px;
}
.way:hover,
.way:focus-visible {
  border-left-color: var(--accent);
  background: rgb(var(--v-theme-surface-variant));
}
.sign {
  display: inline-grid;
  flex: none;
  place-items: center;
  min-width: 32px;
  height: 32px;
  padding: 0 5px;
  border: 1.5px solid var(--soft);
  border-radius: 50%;
  font-weight: 700;
  font-size: 1.05rem;
}
small {
  display: block;
  color: var(--soft);
}
</style>
