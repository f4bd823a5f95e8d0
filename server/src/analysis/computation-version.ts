declare const BUILT_FROM: string | undefined;

/** Digest of the source that computes, put in by the build: what an older one has kept is computed anew. Run from source there is none. */
export const COMPUTATION_VERSION = typeof BUILT_FROM === 'string' ? BUILT_FROM : 'source';
