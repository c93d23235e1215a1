import { pass } from '../shared/passes.ts';
import SheetPage from './SheetPage.vue';
import SheetPanel from './SheetPanel.vue';

export default pass({ id: 'sheet', label: 'Sheet', hint: 'Print and files', panel: SheetPanel, main: SheetPage });
