import { pass } from '../shared/passes.ts';
import BowPanel from './BowPanel.vue';
import { BOW_KEYS, usePassCommands } from './commands.ts';

export default pass({
  id: 'bow',
  label: 'Bow',
  hint: 'Strokes and the hair',
  panel: BowPanel,
  with: ['bow', 'hair'],
  without: ['hand'],
  keys: BOW_KEYS,
  commands: usePassCommands,
});
