<script setup lang="ts">
/** The left hand of the whole tune: what it does in all, where it is hard, and another fingering beside it. */
import { computed } from 'vue';
import { effortText, totalsText } from '@nokta/core/words';
import { useDesk } from '../rooms/store.ts';
import CompareCard from './CompareCard.vue';
import HardList from './HardList.vue';

const desk = useDesk();
const totals = computed(() => desk.arrangement!.fingering.totals);
</script>

<template>
  <section>
    <p>{{ totalsText(totals) }}.</p>
    <p class="soft">{{ effortText(totals) }}</p>
    <h4>Hard places</h4>
    <HardList />
    <h4>Another fingering</h4>
    <CompareCard />
  </section>
</template>

<style scoped src="./cards.css" />
