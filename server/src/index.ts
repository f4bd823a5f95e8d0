/** What another process of Node starts Gezeit by: several data folders on the same threads. */
export { serve } from './serve.js';
export { startThreads } from './work/threads.js';
