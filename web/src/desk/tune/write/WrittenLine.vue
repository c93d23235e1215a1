<script setup lang="ts">
/** One line of the page that is written on: its staff, the caret, what is chosen, bars that want mending. */
import { computed } from 'vue';
import type { Trouble } from '@nokta/core/edit';
import type { EngravedLine } from '@nokta/engrave';
import TextLine from './TextLine.vue';

const props = defineProps<{
  picture: EngravedLine | null;
  /** As people count. */
  first: number;
  last: number;
  /** Index of its first bar. */
  from: number;
  /** Its last bar is not full. */
  open: boolean;
  troubles: readonly Trouble[];
  hasCaret: boolean;
  /** The event behind which the caret stands, where it is in this line. */
  caret: string | null;
  picked: ReadonlySet<string>;
  playingId: string | null;
  /** The event whose word or chord is being typed, where it is in this line. */
  textAt: string | null;
}>();
const emit = defineEmits<{ go: [event: string, more: boolean] }>();

/** Pixels to a staff space. */
const SPACE = 7.6;
const WIDTH = 10;

const size = computed(() => ({
  width: (props.picture?.width ?? 0) * SPACE,
  height: (props.picture?.height ?? 0) * SPACE,
}));
/** Everything that can be gone to; a note that is written as several heads is there several times. */
const places = computed(() =>
  Object.entries(props.picture?.heads ?? {}).map(([id, { x }]) => ({
    id,
    event: id.replace(/-\d+$/, ''),
    x: x * SPACE,
  })),
);
const boxes = computed(() => places.value.filter(({ id }) => props.picked.has(id) || id === props.playingId));

/** Bars that something is wrong with, as a band from bar line to bar line. */
const bands = computed(() => {
  const { picture } = props;
  if (!picture) return [];
  return props.troubles.map((trouble) => {
    const at = trouble.bar - props.from;
    const left = at > 0 ? (picture.barlines[at - 1] ?? 0) : 0;
    const right = picture.barlines[at] ?? picture.width;
    return { trouble, x: left * SPACE, width: Math.max(0, right - left) * SPACE };
  });
});

/** Behind the note that was written last. */
const caretX = computed(() => {
  const head = props.caret === null ? undefined : props.picture?.heads[props.caret];
  return head ? (head.x + 1.5) * SPACE : null;
});
const textX = computed(() => (props.picture?.heads[props.textAt ?? '']?.x ?? 0) * SPACE);
</script>

<template>
  <section class="line" :class="{ 'caret-line': hasCaret }" :aria-label="`Bars ${first} to ${last}`">
    <span class="number" aria-hidden="true">{{ first }}</span>
    <svg
      v-if="picture"
      class="music"
      role="group"
      :aria-label="`Notes of bars ${first} to ${last} ${open ? 'not full' : ''}`"
      :width="size.width"
      :height="size.height"
      :viewBox="`0 0 ${size.width} ${size.height}`"
    >
      <g v-for="{ trouble, x, width } in bands" :key="`${trouble.kind}-${trouble.bar}`" class="trouble">
        <title>{{ trouble.message }}</title>
        <rect :x="x + 2" y="1" :width="Math.max(0, width - 4)" :height="size.height - 2" rx="6" />
        <text :x="x + width - 15" y="15">!</text>
      </g>
      <rect
        v-for="{ id, x } in boxes"
        :key="id"
        class="box"
        :class="{ sounding: playingId === id }"
        :x="x - WIDTH"
        y="2"
        :width="2 * WIDTH"
        :height="size.height - 4"
        rx="5"
      />
      <svg
        class="staff engraved"
        :width="size.width"
        :height="size.height"
        :viewBox="picture.viewBox"
        v-html="picture.markup"
      />
      <line v-if="caretX !== null" class="caret" :x1="caretX" :x2="caretX" y1="4" :y2="size.height - 4" />
      <rect
        v-for="{ id, event, x } in places"
        :key="`hit-${id}`"
        class="hit"
        :data-event="id"
        :x="x - WIDTH"
        y="0"
        :width="2 * WIDTH"
        :height="size.height"
        @click="emit('go', event, $event.shiftKey)"
      />
    </svg>
    <p v-else class="wait">Engraving…</p>
    <!-- Open at once, whether or not the line is engraved yet: what is typed next is its text. -->
    <TextLine v-if="textAt !== null" :x="textX" />
  </section>
</template>

<style scoped src="./writtenLine.css" />
