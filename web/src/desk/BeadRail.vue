<script setup lang="ts">
/** The form at a glance: a row for each phrase, a bead for each bar; the same music, the same bead. */
import { computed } from 'vue';
import type { Arrangement } from '@nokta/core/arrange';
import { barGroups, phrasesOf } from '@nokta/core/form';
import { barNumbers, barStarts } from '@nokta/core/music';

const props = defineProps<{ arrangement: Arrangement; selectedId: string | null; playingId: string | null }>();
const emit = defineEmits<{ select: [noteId: string] }>();

/** Shape and filling together tell twenty-four kinds apart without colour. */
const SHAPES = ['circle', 'diamond', 'square', 'hexagon', 'up', 'down', 'oval', 'bar'] as const;
const FILLS = ['full', 'ring', 'half'] as const;

interface Bead {
  readonly bar: number;
  readonly shape: string;
  readonly fill: string;
  readonly note: string;
  readonly notes: ReadonlySet<string>;
  readonly comesBack: boolean;
}

const rows = computed(() => {
  const { tune, form } = props.arrangement;
  const groups = barGroups(tune);
  const numbers = barNumbers(tune.bars);
  const starts = barStarts(tune.bars);
  const kinds = [...new Set(groups)];
  return phrasesOf(form).map((phrase) => ({
    phrase,
    beads: tune.bars.flatMap((bar, index): Bead[] => {
      const inside = starts[index]! >= phrase.from - bar.length / 2 && starts[index]! < phrase.to - bar.length / 2;
      const first = bar.events.find(({ kind }) => kind === 'note');
      if (!inside || !first || (bar.offset > 0 && bar.events.length < 2 && bar.length < bar.offset)) return [];
      const kind = kinds.indexOf(groups[index]!);
      return [
        {
          bar: numbers[index]!,
          shape: SHAPES[kind % SHAPES.length]!,
          fill: FILLS[Math.floor(kind / SHAPES.length) % FILLS.length]!,
          note: first.id,
          notes: new Set(bar.events.map(({ id }) => id)),
          comesBack: groups.filter((group) => group === groups[index]).length > 1,
        },
      ];
    }),
  }));
});
const here = computed(() => props.playingId ?? props.selectedId ?? '');
</script>

<template>
  <nav class="rail" aria-label="Form of the tune">
    <ol>
      <li v-for="{ phrase, beads } in rows" :key="phrase.id">
        <span class="name">{{ phrase.label }}</span>
        <span class="beads">
          <button
            v-for="bead in beads"
            :key="bead.note"
            type="button"
            class="bead"
            :class="[bead.shape, bead.fill, { here: bead.notes.has(here) }]"
            :aria-label="`Bar ${bead.bar}${bead.comesBack ? ', comes more than once' : ''}`"
            :title="`Bar ${bead.bar}`"
            @click="emit('select', bead.note)"
          >
            <svg viewBox="-8 -8 16 16" aria-hidden="true">
              <circle v-if="bead.shape === 'circle'" r="5.5" />
              <path v-else-if="bead.shape === 'diamond'" d="M0 -7 L7 0 L0 7 L-7 0 Z" />
              <rect v-else-if="bead.shape === 'square'" x="-5" y="-5" width="10" height="10" />
              <path v-else-if="bead.shape === 'hexagon'" d="M-3.5 -6 H3.5 L7 0 L3.5 6 H-3.5 L-7 0 Z" />
              <path v-else-if="bead.shape === 'up'" d="M0 -6.5 L6.5 5.5 H-6.5 Z" />
              <path v-else-if="bead.shape === 'down'" d="M0 6.5 L6.5 -5.5 H-6.5 Z" />
              <ellipse v-else-if="bead.shape === 'oval'" rx="7" ry="4" />
              <rect v-else x="-3" y="-6.5" width="6" height="13" rx="3" />
              <path v-if="bead.fill === 'half'" class="cut" d="M-8 0 H8" />
            </svg>
          </button>
        </span>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
.rail {
  padding: 10px 2px 10px 10px;
}
ol {
  display: grid;
  gap: 6px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 24px 1fr;
  align-items: start;
}
.name {
  padding-top: 2px;
  font-weight: 700;
  font-size: 0.85rem;
}
.beads {
  display: flex;
  flex-wrap: wrap;
}
.bead {
  display: grid;
  place-items: center;
  width: 23px;
  height: 24px;
  padding: 0;
  border: 0;
  border-radius: 50%;
  background: none;
  cursor: pointer;
}
.bead.here {
  background: color-mix(in srgb, var(--accent) 28%, transparent);
}
svg {
  width: 17px;
  height: 17px;
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 1.6px;
}
.ring svg,
.half svg {
  fill: transparent;
}
.cut {
  stroke-width: 3px;
}
</style>
