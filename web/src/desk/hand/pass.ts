import { pass } from '../shared/passes.ts';
import HandPanel from './HandPanel.vue';

export default pass({ id: 'hand', label: 'Hand', hint: 'Strings and fingers', panel: HandPanel });
