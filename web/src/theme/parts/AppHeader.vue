<script setup lang="ts">
/** The top of every place but the desk: where one is, where else one can go, and what can be done there. */
import { mdiThemeLightDark } from '@mdi/js';
import { useAppTheme } from '../../settings/theme.ts';

defineProps<{ place: 'library' | 'book' | 'workshop' }>();
const theme = useAppTheme();
const PLACES = [
  { id: 'library', name: 'Library', to: '/' },
  { id: 'book', name: 'Books', to: '/book' },
  { id: 'workshop', name: 'Workshop', to: '/workshop' },
] as const;
</script>

<template>
  <header>
    <p class="mark"><span class="dot" aria-hidden="true"></span>Nokta</p>
    <nav aria-label="Places">
      <router-link
        v-for="{ id, name, to } in PLACES"
        :key="id"
        :to="to"
        :aria-current="id === place ? 'page' : undefined"
        >{{ name }}</router-link
      >
    </nav>
    <slot />
    <v-btn
      :icon="mdiThemeLightDark"
      size="small"
      aria-label="Light or dark"
      :aria-pressed="theme.name.value === 'dark'"
      @click="theme.toggle()"
    />
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 6px 24px;
  background: var(--wood);
  color: var(--on-wood);
}
header :deep(.v-btn--icon .v-icon) {
  font-size: 22px;
}
.mark {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0;
  font: 600 1.35rem var(--display);
}
.dot {
  width: 15px;
  height: 15px;
  border-radius: 50%;
  background: #eda566;
}
nav {
  display: flex;
  flex: 1;
  gap: 4px;
  margin-left: 18px;
}
a {
  padding: 6px 12px;
  border-radius: 8px;
  color: inherit;
  text-decoration: none;
}
@media (width < 700px) {
  header {
    flex-wrap: wrap;
    gap: 4px;
    padding: 4px 10px;
  }
  nav {
    margin-left: 4px;
  }
  a {
    padding-inline: 8px;
  }
  .mark {
    font-size: 1.1rem;
  }
}
a[aria-current] {
  background: rgba(255, 255, 255, 0.13);
}
</style>
