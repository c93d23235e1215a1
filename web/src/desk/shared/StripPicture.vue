<script setup lang="ts">
/** A strip to look at: nothing in it can be chosen, for its notes are not those of the tune on the desk. */
import type { EngravedLine } from '@nokta/engrave';
import type { LaneId } from '@nokta/core/sheet';
import PhraseStrip from './PhraseStrip.vue';
import type { StripView } from '../rooms/strips.ts';

const {
  view,
  staff,
  lanes,
  playingId = null,
} = defineProps<{
  view: StripView;
  staff: EngravedLine;
  lanes: readonly LaneId[];
  /** The note that sounds now. */
  playingId?: string | null;
}>();
const NONE: ReadonlySet<string> = new Set();
</script>

<template>
  <div inert>
    <PhraseStrip
      :view="view"
      :staff="staff"
      :lanes="lanes"
      :playing-id="playingId"
      :selected-id="null"
      :sounding="false"
      :range="NONE"
      :hinted="NONE"
      :changed="NONE"
      :beside="null"
      :start-moves="false"
      :end-moves="false"
    />
  </div>
</template>
