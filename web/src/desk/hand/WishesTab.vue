<script setup lang="ts">
/** What the hand prefers, what it may do, whose it is, and what is set. */
import LearnerCard from './LearnerCard.vue';
import LimitsCard from './LimitsCard.vue';
import SetFingersCard from './SetFingersCard.vue';
import WishesCard from './WishesCard.vue';
</script>

<template>
  <div>
    <WishesCard />
    <LimitsCard />
    <LearnerCard />
    <SetFingersCard />
  </div>
</template>
