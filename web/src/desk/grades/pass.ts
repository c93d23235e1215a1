import { isGraded } from '@nokta/core/grade';
import { pass } from '../shared/passes.ts';
import { useDesk } from '../rooms/store.ts';
import { useGradeActions } from './actions.ts';
import GradesPanel from './GradesPanel.vue';

export default pass({
  id: 'grades',
  label: 'Grades',
  hint: 'Versions, easier and richer',
  panel: GradesPanel,
  commands() {
    const desk = useDesk();
    const { toggleNote } = useGradeActions();
    // In a version of a grade a note is kept; elsewhere there is only its finger to keep.
    return { keep: () => isGraded(desk.record?.decisions.version.grade ?? 'tune') && toggleNote() };
  },
});
