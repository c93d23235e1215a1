<script setup lang="ts">
/** A book coming in: how far it is, a way to stop it, and at the end what came in and what did not. */
import { computed, ref } from 'vue';
import { useImports } from './imports.ts';

const imports = useImports();
const ROWS = 60;
const list = ref<'alike' | 'skipped' | 'notices'>('alike');

const alike = computed(() => imports.report?.cameIn.filter(({ alike: others }) => others.length > 0) ?? []);
const percent = computed(() => {
  const report = imports.report;
  return report && report.total > 0 ? Math.round((report.sent / report.total) * 100) : 0;
});
const headline = computed(() => {
  const report = imports.report;
  if (!report) return '';
  const named = report.named > 0 ? `, ${report.named} as another name` : '';
  const came = `${(report.cameIn.length + report.named).toLocaleString('en')} of ${report.total.toLocaleString('en')} tunes came in${named}`;
  return {
    running: `${came}…`,
    stopping: `${came}, stopping…`,
    done: `${came}.`,
    stopped: `Stopped: ${came}. They are kept.`,
    failed: `It broke off: ${came}. They are kept.`,
  }[report.state];
});
const tabs = computed(() =>
  (
    [
      ['alike', 'known already', alike.value.length],
      ['skipped', 'skipped', imports.report?.skipped.length ?? 0],
      ['notices', 'with something to know', imports.report?.notices.length ?? 0],
    ] as const
  ).filter(([, , count]) => count > 0),
);
const shownList = computed(() =>
  tabs.value.some(([id]) => id === list.value) ? list.value : (tabs.value[0]?.[0] ?? null),
);
</script>

<template>
  <aside v-if="imports.report" class="bar" aria-label="Import">
    <div class="line">
      <progress :value="percent" max="100" :aria-label="`${percent} percent`" />
      <strong role="status">{{ headline }}</strong>
      <span class="push" />
      <v-btn v-if="imports.running" size="small" variant="outlined" @click="imports.stop()">Stop</v-btn>
      <v-btn v-if="tabs.length > 0" size="small" :aria-expanded="imports.open" @click="imports.open = !imports.open">{{
        imports.open ? 'Less' : 'Report'
      }}</v-btn>
      <v-btn v-if="!imports.running" size="small" @click="imports.dismiss()">Close</v-btn>
    </div>
    <p v-if="imports.report.problem" class="problem" role="alert">{{ imports.report.problem }}</p>
    <div v-if="imports.open && shownList" class="report">
      <div class="tabs" role="group" aria-label="Report">
        <button
          v-for="[id, label, count] in tabs"
          :key="id"
          type="button"
          :aria-pressed="shownList === id"
          @click="list = id"
        >
          {{ count }} {{ label }}
        </button>
      </div>
      <ul v-if="shownList === 'alike'">
        <li v-for="tune in alike.slice(0, ROWS)" :key="tune.id">
          <strong>{{ tune.title }}</strong> sounds like “{{ tune.alike[0]!.title }}” ({{ tune.alike[0]!.key }}).
          <v-btn size="small" variant="outlined" @click="imports.join(tune.alike[0]!, tune)"
            >Only add its name there</v-btn
          >
        </li>
      </ul>
      <ul v-else>
        <li v-for="(entry, index) in imports.report[shownList].slice(0, ROWS)" :key="index">
          <strong>{{ entry.title }}</strong> ({{ entry.file }}): {{ entry.reason }}
        </li>
      </ul>
      <p v-if="(shownList === 'alike' ? alike : imports.report[shownList]).length > ROWS">
        The first {{ ROWS }} are shown.
      </p>
    </div>
  </aside>
</template>

<style scoped>
.bar {
  position: fixed;
  right: 16px;
  bottom: 16px;
  left: 16px;
  z-index: 1500;
  display: grid;
  gap: 8px;
  max-width: 820px;
  margin: 0 auto;
  padding: 10px 16px;
  border: 1px solid var(--edge);
  border-left: 4px solid var(--accent);
  border-radius: 10px;
  background: var(--paper);
  box-shadow: 0 4px 18px rgb(0 0 0 / 22%);
  color: var(--ink);
}
.line {
  display: flex;
  align-items: center;
  gap: 12px;
}
.push {
  flex: 1;
}
progress {
  width: 120px;
  accent-color: var(--accent);
}
.report {
  max-height: 34vh;
  overflow: auto;
}
.tabs {
  display: flex;
  gap: 6px;
}
.tabs button {
  padding: 3px 12px;
  border: 1px solid var(--edge);
  border-radius: 12px;
  background: none;
  color: inherit;
  font: inherit;
}
.tabs button[aria-pressed='true'] {
  border: 2px solid var(--accent);
  font-weight: 700;
}
ul {
  margin: 8px 0 0;
  padding-left: 18px;
}
li {
  margin-bottom: 4px;
}
p {
  margin: 0;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
