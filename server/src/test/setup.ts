/** Tests run the program that ships: it is built where its sources are newer. */
export { buildServer as setup } from '../../../scripts/steps.mjs';
