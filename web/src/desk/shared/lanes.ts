/** Which lanes the teacher wants to see, on strips and sheet; kept in the browser. */
import { useStorage } from '@vueuse/core';
import type { RemovableRef } from '@vueuse/core';
import { USUAL_LANES, type LaneId } from '@nokta/core/sheet';

export const useWishedLanes = (): RemovableRef<readonly LaneId[]> =>
  useStorage<readonly LaneId[]>('nokta-lanes', USUAL_LANES);
