<script setup lang="ts">
/** The same tune as ABC text, both ways: what is typed here is the tune, what is written there is this text. */
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, drawSelection, keymap, lineNumbers } from '@codemirror/view';
import { adoptIds } from '@nokta/core/edit';
import { readAbc, writeAbc, type Problem } from '@nokta/core/formats';
import { useWriter } from './writer.ts';

const writer = useWriter();
const place = ref<HTMLElement | null>(null);
const problems = ref<readonly Problem[]>([]);
/** Pause in typing after which the text is read. */
const PAUSE_MS = 220;
let view: EditorView | null = null;
let timer: ReturnType<typeof setTimeout> | undefined;
/** The text was last set from the tune, or the tune from the text: neither echoes the other. */
let settled = '';

const textOf = () => (writer.tune ? writeAbc(writer.tune) : '');

function read(): void {
  const text = view?.state.doc.toString() ?? '';
  if (!view || text === settled || !writer.tune) return;
  settled = text;
  const result = readAbc(text);
  problems.value = result.ok ? result.notices : result.problems;
  mark();
  if (result.ok) writer.edit(adoptIds(writer.tune, result.value.tune), 'edit the ABC');
}

/** Underlines each problem where it stands. */
function mark(): void {
  if (!view) return;
  const { doc } = view.state;
  const diagnostics = problems.value.map(({ line = 1, column = 1, message, remedy, severity }): Diagnostic => {
    const at = doc.line(Math.min(Math.max(1, line), doc.lines));
    // A problem at the end of a line is shown at its last sign.
    const to = Math.min(at.to, at.from + column);
    return {
      from: Math.max(at.from, to - 1),
      to,
      severity: severity === 'error' ? 'error' : 'warning',
      message: [message, remedy].filter(Boolean).join(' '),
    };
  });
  view.dispatch(setDiagnostics(view.state, diagnostics));
}

onMounted(() => {
  settled = textOf();
  view = new EditorView({
    parent: place.value!,
    state: EditorState.create({
      doc: settled,
      extensions: [
        lineNumbers(),
        lintGutter(),
        history(),
        drawSelection(),
        EditorView.lineWrapping,
        keymap.of([...defaultKeymap, ...historyKeymap]),
        EditorView.contentAttributes.of({ 'aria-label': 'ABC text of the tune', spellcheck: 'false' }),
        EditorView.updateListener.of(({ docChanged }) => {
          if (!docChanged) return;
          clearTimeout(timer);
          timer = setTimeout(read, PAUSE_MS);
        }),
      ],
    }),
  });
});
onBeforeUnmount(() => {
  clearTimeout(timer);
  read();
  view?.destroy();
});

watch(
  () => writer.tune,
  () => {
    // While text is being typed it is not replaced under the hands.
    if (!view || view.hasFocus) return;
    const text = textOf();
    if (text === view.state.doc.toString()) return;
    settled = text;
    problems.value = [];
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
    mark();
  },
);

const placeText = ({ line, column }: Problem) => (line === undefined ? '' : `Line ${line}, column ${column ?? 1}: `);
</script>

<template>
  <div class="abc">
    <div ref="place" class="editor" />
    <div role="status">
      <ul v-if="problems.length > 0" class="problems">
        <li v-for="(problem, index) in problems.slice(0, 6)" :key="index">
          <strong>{{ placeText(problem) }}</strong>{{ problem.message }} {{ problem.remedy }}
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.abc {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.editor {
  overflow: hidden;
  border: 1px solid var(--edge);
  border-radius: 8px;
}
.editor :deep(.cm-editor) {
  max-height: 56vh;
  background: var(--desk);
  color: var(--ink);
  font-size: 0.84rem;
}
.editor :deep(.cm-scroller) {
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
}
.editor :deep(.cm-gutters) {
  border: 0;
  background: transparent;
  color: var(--soft);
}
.editor :deep(.cm-cursor) {
  border-left-color: var(--accent);
  border-left-width: 2px;
}
.editor :deep(.cm-selectionBackground) {
  background: color-mix(in srgb, var(--accent) 28%, transparent) !important;
}
.editor :deep(.cm-tooltip) {
  background: var(--paper);
  color: var(--ink);
}
.problems {
  margin: 0;
  padding-left: 18px;
  font-size: 0.86rem;
}
</style>
