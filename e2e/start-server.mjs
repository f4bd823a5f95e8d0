// Serves the built Gezeit with the demo's programmes from a data folder of its own, on a port, for looks and benches.
import { seededFolder } from './seed.mjs';

process.env.GEZEIT_DATA = await seededFolder();
process.env.GEZEIT_LOG = 'warn';
process.argv = [process.argv[0], process.argv[1], 'serve', '--port', process.argv[2]];
await import('../dist/server/main.js');
