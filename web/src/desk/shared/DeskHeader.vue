<script setup lang="ts">
/** The top of the desk: the tune, whether it is saved, the passes, undo and redo. */
import { computed } from 'vue';
import { useMediaQuery } from '@vueuse/core';
import {
  mdiArrowLeft,
  mdiEyeOutline,
  mdiChevronDown,
  mdiKeyboardOutline,
  mdiRedo,
  mdiStairs,
  mdiThemeLightDark,
  mdiUndo,
} from '@mdi/js';
import { useAppTheme } from '../../settings/theme.ts';
import LookMenu from './LookMenu.vue';
import type { Pass, PassId } from './passes.ts';
import { useDesk } from '../rooms/store.ts';

const props = defineProps<{ pass: PassId; passes: readonly Pass[] }>();
const emit = defineEmits<{ go: [pass: PassId]; help: []; ask: [] }>();
const desk = useDesk();
const theme = useAppTheme();
const names = computed(() => desk.names);
const current = computed(() => names.value.find(({ id }) => id === desk.record?.id)?.name ?? '');
/** Where the row of passes has no room they are a menu: a telephone, or a page that is magnified. */
const isSmall = useMediaQuery('(width < 600px) or (height < 520px)');
const here = computed(() => props.passes.find(({ id }) => id === props.pass)?.label ?? '');
const saveText = computed(
  () => ({ saved: 'Saved', saving: 'Saving…', waiting: 'Not saved yet', held: 'Not saved' })[desk.saveState],
);
</script>

<template>
  <header class="top">
    <v-btn :to="{ name: 'library' }" :icon="mdiArrowLeft" size="small" aria-label="Back to the library" />
    <h1>{{ desk.tune?.title ?? 'Nokta' }}</h1>
    <v-btn
      v-if="desk.records.length > 1"
      size="small"
      class="which"
      :append-icon="mdiChevronDown"
      :aria-label="`Arrangement: ${current}. Choose another`"
      >{{ current }}
      <v-menu activator="parent">
        <v-list aria-label="Arrangements">
          <v-list-item
            v-for="{ id, name } in names"
            :key="id"
            :title="name"
            :active="id === desk.record?.id"
            @click="desk.switchTo(id)"
          />
        </v-list>
      </v-menu>
    </v-btn>
    <v-btn
      class="version"
      size="small"
      :prepend-icon="mdiStairs"
      aria-label="A version for another grade or instrument"
      title="A version for another grade or instrument"
      @click="emit('ask')"
      ><span>Version</span></v-btn
    >
    <span class="save" :class="desk.saveState" role="status">{{ saveText }}</span>
    <v-btn
      v-if="isSmall"
      size="small"
      class="menu"
      :append-icon="mdiChevronDown"
      :aria-label="`Pass: ${here}. Go to another`"
      >{{ here }}
      <v-menu activator="parent">
        <v-list aria-label="Passes">
          <v-list-item
            v-for="{ id: passId, label, hint } in passes"
            :key="passId"
            :title="label"
            :subtitle="hint"
            :active="passId === pass"
            @click="emit('go', passId)"
          />
        </v-list>
      </v-menu>
    </v-btn>
    <nav v-else class="passes" aria-label="Passes">
      <button
        v-for="{ id: passId, label, hint } in passes"
        :key="passId"
        type="button"
        :aria-current="passId === pass ? 'step' : undefined"
        :title="hint"
        @click="emit('go', passId)"
      >
        {{ label }}
      </button>
    </nav>
    <v-btn
      :icon="mdiUndo"
      size="small"
      :disabled="!desk.undoLabel"
      :aria-label="desk.undoLabel ? `Undo: ${desk.undoLabel}` : 'Undo'"
      @click="desk.step('undo')"
    />
    <v-btn
      :icon="mdiRedo"
      size="small"
      :disabled="!desk.redoLabel"
      :aria-label="desk.redoLabel ? `Redo: ${desk.redoLabel}` : 'Redo'"
      @click="desk.step('redo')"
    />
    <v-btn icon size="small" aria-label="What the strips show">
      <v-icon :icon="mdiEyeOutline" />
      <LookMenu activator="parent" />
    </v-btn>
    <v-btn
      :icon="mdiThemeLightDark"
      size="small"
      aria-label="Light or dark"
      :aria-pressed="theme.name.value === 'dark'"
      @click="theme.toggle()"
    />
    <v-btn :icon="mdiKeyboardOutline" size="small" aria-label="Keys" @click="emit('help')" />
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 14px;
  background: var(--wood);
  color: var(--on-wood);
}
h1 {
  overflow: hidden;
  min-width: 0;
  margin: 0;
  font-size: 1.2rem;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.which {
  max-width: 210px;
}
.save {
  flex: none;
  color: #d8c9ae;
  font-size: 0.85rem;
}
.save.waiting,
.save.held {
  color: #ffb4a8;
  font-weight: 700;
}
.passes {
  display: flex;
  flex: none;
  margin: 0 auto;
}
.passes button {
  position: relative;
  padding: 9px 15px 13px;
  border: 0;
  background: none;
  color: #d8c9ae;
  font: inherit;
  cursor: pointer;
}
.passes button::before {
  content: '';
  position: absolute;
  right: 0;
  bottom: 8px;
  left: 0;
  border-top: 1.5px solid #7a6752;
}
.passes button:first-child::before {
  left: 50%;
}
.passes button:last-child::before {
  right: 50%;
}
.passes button::after {
  content: '';
  position: absolute;
  bottom: 5px;
  left: calc(50% - 3.5px);
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: #a08c72;
}
.passes button[aria-current='step'] {
  color: #fff;
  font-weight: 700;
}
.passes button[aria-current='step']::after {
  bottom: 3px;
  left: calc(50% - 6px);
  width: 12px;
  height: 12px;
  background: #eda566;
}
.version {
  min-width: 40px;
}
/* Title and buttons above, passes below: at each width the title can be read. */
@media (width < 1240px) {
  .top {
    flex-wrap: wrap;
    gap: 2px 6px;
  }
  h1 {
    flex: 1 1 120px;
  }
  .passes {
    order: 1;
    justify-content: center;
    width: 100%;
  }
  .version span {
    display: none;
  }
}
@media (width < 900px) {
  .top {
    padding: 2px 8px;
  }
  .passes button {
    padding-inline: 10px;
  }
  .which {
    max-width: 132px;
  }
}
@media (width < 600px) {
  h1 {
    flex-basis: 60%;
    font-size: 1.05rem;
  }
  .save {
    margin-right: auto;
  }
}
</style>
