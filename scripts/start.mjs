/** `npm start`: the same without demo data, keeping the user's own. */
import { build, install, serve } from './steps.mjs';

install();
build();
serve([]);
