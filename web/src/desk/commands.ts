/** Everything that the desk's keys do: walking, playing, passes, undo; and what single passes add. */
import { useBowCommands } from './bow/commands.ts';
import { useHandCommands } from './hand/commands.ts';
import type { DeskActions } from './shared/keys.ts';
import { PASS, PASSES } from './passes.ts';
import type { DeskPlaces, PassCommands, PassId } from './shared/passes.ts';
import type { Transport } from './shared/transport.ts';
import { useDesk } from './rooms/store.ts';
import type { useWriter } from './tune/write/writer.ts';

export function useDeskCommands(
  places: DeskPlaces,
  transport: Pick<Transport, 'toggle' | 'playPhrase' | 'toggleLoop'>,
  writer: Pick<ReturnType<typeof useWriter>, 'active' | 'at' | 'start' | 'stop'>,
): DeskActions {
  const desk = useDesk();
  const hand = useHandCommands();
  const passes = Object.fromEntries(PASSES.map(({ id, commands }) => [id, commands?.(places) ?? {}])) as Record<
    PassId,
    PassCommands
  >;
  const inPass = (command: string): unknown => passes[places.pass()][command]?.() ?? undefined;

  return {
    ...hand,
    ...useBowCommands(),
    inPass,
    toggleLock() {
      const { keep } = passes[places.pass()];
      const done = keep ? keep() : false;
      return done === false ? hand.toggleLock() : done;
    },
    pass: () => PASS[places.pass()],
    writing: () => writer.active,
    write() {
      if (writer.active) return writer.stop();
      if (places.pass() !== 'tune') places.goTo('tune');
      writer.start(desk.selectedId);
    },
    moveNote(by, more) {
      const { notes, selected } = desk;
      const next = notes[(selected ? notes.indexOf(selected) : -1) + by];
      if (next) places.select(next.id, true, more);
    },
    movePhrase(by) {
      const { phrases, selectedPhrase } = desk;
      const next = selectedPhrase && phrases[phrases.indexOf(selectedPhrase) + by];
      if (next?.notes[0]) places.select(next.notes[0], true);
    },
    togglePlay: () => transport.toggle(writer.active ? writer.at : null),
    playPhrase: () => desk.selectedPhrase && transport.playPhrase(desk.selectedPhrase.id),
    toggleLoop: () => transport.toggleLoop(),
    afterSteps: (run) => desk.afterSteps(run),
    undo: () => void desk.step('undo'),
    redo: () => void desk.step('redo'),
    toggleHelp: () => places.toggleHelp(),
    askVersion: () => places.askVersion(),
    nextPass(by) {
      const next = PASSES[PASSES.findIndex(({ id }) => id === places.pass()) + by];
      if (next) places.goTo(next.id);
    },
  };
}
