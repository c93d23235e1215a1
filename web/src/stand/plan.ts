/** The lesson of the arrangement on the desk: its steps as the teacher wants them, and what he does to them. */
import { computed, type ComputedRef } from 'vue';
import type { LessonDecisions } from '@nokta/core/arrange';
import { lessonPlan, lessonSteps, type PlannedStep } from '@nokta/core/practice';
import { useDesk } from '../desk/rooms/store.ts';

const NOTHING_WISHED: LessonDecisions = { order: null, out: {}, minutes: null };

export function useLessonPlan(): ComputedRef<readonly PlannedStep[]> {
  const desk = useDesk();
  const steps = computed(() => {
    const now = desk.arrangement;
    return now ? lessonSteps(now.tune, now.form, now.tempo) : [];
  });
  return computed(() => lessonPlan(steps.value, desk.record?.decisions.lesson ?? NOTHING_WISHED));
}

export function usePlanActions(plan: ComputedRef<readonly PlannedStep[]>) {
  const desk = useDesk();
  const wished = computed(() => desk.record?.decisions.lesson ?? NOTHING_WISHED);
  const order = (steps: readonly PlannedStep[], label: string): void =>
    void desk.decide({ lesson: { order: steps.map(({ id }) => id) } }, label);

  return {
    wished,
    move(from: number, to: number): void {
      const step = plan.value[from];
      if (!step || to < 0 || to >= plan.value.length || from === to) return;
      const steps = plan.value.filter((_, index) => index !== from);
      steps.splice(to, 0, step);
      desk.spoken = `${step.label} comes ${to + 1}.`;
      order(steps, `the order of the lesson`);
    },
    repeat(at: number): void {
      const step = plan.value[at];
      if (step)
        order(
          plan.value.flatMap((one, index) => (index === at ? [one, one] : [one])),
          `${step.label} once more`,
        );
    },
    /** One that stands there again goes; one that stands there once is left out, and can be taken in again. */
    toggle(at: number): void {
      const step = plan.value[at];
      if (!step) return;
      if (plan.value.findIndex(({ id }) => id === step.id) !== at)
        return order(
          plan.value.filter((_, index) => index !== at),
          `${step.label} not again`,
        );
      const { [step.id]: _, ...rest } = wished.value.out;
      const out = step.out ? rest : { ...rest, [step.id]: true as const };
      void desk.decide(
        { lesson: { out } },
        step.out ? `${step.label} in the lesson` : `the lesson without ${step.label}`,
      );
    },
    setMinutes: (minutes: number | null): void => void desk.decide({ lesson: { minutes } }, 'how long the lesson is'),
    fromTune: (): void => void desk.decide({ lesson: { order: null, out: {} } }, 'the lesson as it comes'),
  };
}
