import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

const PROJECTS = ['server', 'core', 'pages'];
/** Files that take longest, so that none of them is the last to run beside nothing; those that mostly wait beside those that compute. */
const LONGEST = ['day', 'round-trip', 'rig-day', 'fuzz', 'sheet', 'nonsense', 'day-store', 'programme-store', 'views', 'agreement'];
/** And those that run while the first processes of the next project start, which would wait for one another. */
const LAST = ['kills', 'loose-days'];

/** Project by project: a process is kept for the next file only where that is of the same one. */
class ProjectByProject extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ project, moduleId }: TestSpecification) => {
      const place = (names: readonly string[]) => names.findIndex((name) => moduleId.endsWith(`/${name}.test.ts`));
      const within = place(LAST) >= 0 ? 99 : place(LONGEST) >= 0 ? place(LONGEST) : LONGEST.length;
      return PROJECTS.indexOf(project.name) * 100 + within;
    };
    return (await super.sort(files)).toSorted((a, b) => rank(a) - rank(b));
  }
}

// Both cores are busy with other tests, and a machine may be slow: a limit that only ends what hangs.
// Files of one project share a process and one copy of the modules: each leaves behind what it found.
const common = { env: { TZ: 'Asia/Kathmandu' }, testTimeout: 90_000, hookTimeout: 60_000, isolate: false };

/**
 * What has no components is imported by Node itself: the runner's own modules reach every import through a getter, which costs whatever computes
 * half of its time.
 */
const byNode = { ...common, execArgv: ['--import', 'tsx'], experimental: { viteModuleRunner: false, nodeLoader: false } };

export default defineConfig({
  test: {
    // More than there are cores: these tests wait for servers as much as they compute.
    maxWorkers: 3,
    sequence: { sequencer: ProjectByProject },
    projects: [
      { test: { ...byNode, name: 'core', include: ['{contract,core}/test/**/*.test.ts', 'demo/**/*.test.ts'] } },
      { test: { ...byNode, name: 'server', include: ['server/test/**/*.test.ts'] } },
      {
        plugins: [vue()],
        // By a name, not by a mock in a file: modules are shared, and the file that ran before would have fetched the real one.
        resolve: { alias: { 'plotly.js-cartesian-dist-min': `${import.meta.dirname}/web/test/support/no-plotly.ts` } },
        test: {
          ...common,
          name: 'pages',
          include: ['web/test/**/*.test.ts'],
          environment: 'happy-dom',
          expect: { poll: { timeout: 45_000 } },
          globalSetup: 'web/test/support/with-server.ts',
        },
      },
    ],
  },
});
