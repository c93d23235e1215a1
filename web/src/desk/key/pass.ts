import { pass } from '../shared/passes.ts';
import KeyBand from './KeyBand.vue';
import KeyPanel from './KeyPanel.vue';

export default pass({ id: 'key', label: 'Key', hint: 'Instrument, key and tuning', panel: KeyPanel, band: KeyBand });
