/** Lines that go with a tune: roles, when they sound, and their notes. */
export {
  companionLine,
  type ChordTone,
  type CompanionLine,
  type LineContext,
  type LineNote,
  type LineWay,
} from './line.ts';
export { spotsOf, PACES, type Pace, type Spot } from './spots.ts';
