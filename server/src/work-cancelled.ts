/** Thrown to whoever waits for work that was cancelled, or that the end of the server cut off. */
export class WorkCancelled extends Error {}
