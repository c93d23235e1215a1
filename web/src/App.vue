<script setup lang="ts">
/** The frame around every view: messages and the theme. */
import { useRouter } from 'vue-router';
import { UnreachableError } from './api/client.ts';
import ImportBar from './library/ImportBar.vue';
import { useMessages } from './messages.ts';
import OutboxNote from './outbox/OutboxNote.vue';
import { useOutbox } from './outbox/outbox.ts';
import { useAppTheme } from './settings/theme.ts';

useAppTheme();
// What an earlier page could not send goes out now.
void useOutbox().begin();
const messages = useMessages();
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
      location="bottom"
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
