import { digestOf } from '../scripts/prepare.mjs';

// Imported before anything of the server: what is kept from here on is what the built server would keep.
Object.assign(globalThis, { BUILT_FROM: digestOf(['contract/src', 'core/src']) });
