<script setup lang="ts">
/** The frame around every view: messages and the theme. */
import { watch } from 'vue';
import { useEventListener } from '@vueuse/core';
import { useRouter } from 'vue-router';
import { UnreachableError } from './api/client.ts';
import ImportBar from './library/ImportBar.vue';
import { useMessages } from './messages.ts';
import OutboxNote from './outbox/OutboxNote.vue';
import { useOutbox } from './outbox/outbox.ts';
import { useAppTheme } from './settings/theme.ts';

useAppTheme();
const outbox = useOutbox();
// What an earlier page could not send goes out now.
void outbox.begin();
const messages = useMessages();
watch(
  () => outbox.keeps,
  (keeps) => {
    if (!keeps)
      messages.say({
        text: 'This browser keeps nothing for Nokta (its storage is closed). While Nokta runs, all is saved; should it stop, leave the window open until it is back.',
        timeout: 20_000,
      });
  },
  { immediate: true },
);
// What lives with the page alone is not closed away by a slip.
useEventListener(window, 'beforeunload', (event) => {
  if (!outbox.keeps && outbox.queues.size > 0) event.preventDefault();
});
// A view that was never open comes from the server.
useRouter().onError(() => messages.say({ text: new UnreachableError().message }));
</script>

<template>
  <v-app>
    <router-view />
    <ImportBar />
    <OutboxNote />
    <v-snackbar
      v-model="messages.shown"
      :timeout="messages.current?.timeout ?? 6000"
      class="message"
      location="top"
      color="surface-variant"
    >
      <span role="status">{{ messages.current?.text }}</span>
      <template #actions>
        <v-btn v-if="messages.current?.action" @click="messages.act()">{{ messages.current.action.label }}</v-btn>
        <v-btn @click="messages.shown = false">Close</v-btn>
      </template>
    </v-snackbar>
  </v-app>
</template>
