import { pass } from '../shared/passes.ts';
import TeachPanel from './TeachPanel.vue';

export default pass({ id: 'teach', label: 'Teach', hint: 'What to say at the stand', panel: TeachPanel });
