<script setup lang="ts">
/** Fingers that are set: those that came with the tune, and the teacher's own, to be freed. */
import { computed, ref } from 'vue';
import { bringsFingers } from '@nokta/core/hand';
import { instrumentOf } from '@nokta/core/instrument';
import { useDesk } from '../rooms/store.ts';
import { useHandActions } from './actions.ts';

const desk = useDesk();
const actions = useHandActions();
const decided = computed(() => desk.record!.decisions.hand);
const instrument = computed(() => instrumentOf(desk.record!.decisions.key));
const brought = computed(() => bringsFingers(desk.arrangement!.tune));
const said = ref('');
const kept = computed(
  () => Object.values(decided.value.locks).filter((lock) => lock.instrument === instrument.value.id).length,
);
</script>

<template>
  <section>
    <template v-if="brought || kept > 0">
      <h4>Fingers that are set</h4>
      <div class="buttons">
        <v-btn
          v-if="brought"
          size="small"
          variant="outlined"
          @click="actions.takeBrought().then((text) => (said = text))"
          >Use the fingers that came with the tune</v-btn
        >
        <v-btn
          v-if="kept > 0"
          size="small"
          variant="outlined"
          @click="actions.free(Object.keys(decided.locks), 'all that is set')"
          >Free all {{ kept }}</v-btn
        >
      </div>
    </template>
    <p v-if="said" role="status">{{ said }}</p>
  </section>
</template>

<style scoped src="./cards.css" />
