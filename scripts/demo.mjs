/** `npm run demo`: installs what is missing, builds, starts with fresh demo data in a place of its own. */
import { build, install, serve } from './steps.mjs';

install();
build();
serve(['--demo']);
