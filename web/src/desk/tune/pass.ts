import { pass } from '../shared/passes.ts';
import TunePanel from './TunePanel.vue';

export default pass({ id: 'tune', label: 'Tune', hint: 'What it is, and how it sounds', panel: TunePanel });
