// Builds server and pages where a source changed since the last build.
import { build } from './prepare.mjs';

build();
