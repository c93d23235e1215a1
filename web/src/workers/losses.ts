/** Apart from the other questions: it reads back what it writes, and the readers are as much as all the rest. */
import { markedTune, type Arrangement } from '@nokta/core/arrange';
import { lossesIn, type Loss, type LossyFormat } from '@nokta/core/formats';

export function fileLosses(arrangement: Arrangement): Readonly<Record<LossyFormat, readonly Loss[]>> {
  const tune = markedTune(arrangement);
  return { abc: lossesIn(tune, 'abc'), musicxml: lossesIn(tune, 'musicxml'), mid: lossesIn(tune, 'mid') };
}
