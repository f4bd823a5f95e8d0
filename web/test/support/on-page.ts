import type { App, Plugin } from 'vue';

/** The parts on the page. One that outlives its test would go wrong in the next one, which is not what that one is about. */
export const onPage = new Set<App>();

/** What went wrong inside of parts that are on the page. */
export const troubles: unknown[] = [];

/** Keeps account of a part from its coming to its going, and of what goes wrong in it. */
export const accountOf: Plugin = {
  install(app) {
    app.config.errorHandler = (error) => void troubles.push(error);
    onPage.add(app);
    app.onUnmount(() => void onPage.delete(app));
  },
};
