import { pass } from '../shared/passes.ts';
import { PART_KEYS, usePartCommands } from './commands.ts';
import PartsPanel from './PartsPanel.vue';
import SamenessMap from './SamenessMap.vue';

export default pass({
  id: 'parts',
  label: 'Parts',
  hint: 'Parts and phrases',
  panel: PartsPanel,
  band: SamenessMap,
  without: ['bow', 'hand'],
  keys: PART_KEYS,
  commands: usePartCommands,
});
