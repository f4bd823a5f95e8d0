import { pathSectionSchema, type PathSection, type SectionKind, type Setup } from '@gezeit/contract';
import { inOrderOfTheWay } from '@gezeit/core';
import { useRoute } from 'vue-router';
import { useProgramme } from '../../model/programme-store.js';
import { SECTION_WORDS } from './section-words.js';
import { useBench } from './use-bench.js';

/** Changes of the path of a setup. */
export function usePathEdit() {
  const programme = useProgramme();
  const bench = useBench();
  const route = useRoute();

  function editPath(setupId: string, what: string, change: (path: PathSection[]) => PathSection[]): Promise<boolean> {
    return programme.edit('setups', `path of ${setupId}: ${what}`, (now) =>
      now.map((setup) => (setup.id === setupId ? { ...setup, path: inOrderOfTheWay(change(setup.path ?? [])) } : setup)),
    );
  }

  /** A section of a kind in the reference, and in the candidate too where that has a path already; then it is opened. */
  async function addSection(kind: string): Promise<void> {
    const both = bench.columns.value.map((column) => column.id);
    let id = kind;
    for (let i = 2; both.includes(id); i++) id = `${kind}-${i}`;
    const words = SECTION_WORDS[kind as SectionKind];
    const name = id === kind ? words : `${words} ${id.slice(kind.length + 1)}`;
    const section = pathSectionSchema.parse({ id, kind, name });
    const targets = [bench.reference.value, bench.candidate.value?.path?.length ? bench.candidate.value : null].filter(
      (setup): setup is Setup => setup !== null,
    );
    const ids = targets.map((setup) => setup.id);
    const before = route.fullPath;
    await programme.edit('setups', `section ${name} added`, (now) =>
      now.map((setup) =>
        ids.includes(setup.id) ? { ...setup, path: inOrderOfTheWay([...(setup.path ?? []), structuredClone(section)]) } : setup,
      ),
    );
    // Whoever has opened something else meanwhile is not called back.
    if (route.fullPath === before) await bench.openSection(id);
  }

  /** Changes a section from what it holds when the change is made, not from what the page showed when it was typed. */
  const patchSection = (setupId: string, id: string, what: string, change: (section: PathSection) => Partial<PathSection>) =>
    editPath(setupId, what, (path) => path.map((section) => (section.id === id ? { ...section, ...change(section) } : section)));

  const removeSection = (setupId: string, section: PathSection) =>
    editPath(setupId, `section ${section.name} removed`, (path) => path.filter(({ id }) => id !== section.id));

  const copySection = (from: PathSection, setupId: string) =>
    editPath(setupId, `section ${from.name} copied`, (path) => [...path, structuredClone({ ...from })]);

  const copyPath = (from: Setup, to: Setup) =>
    editPath(to.id, `path of ${from.id} copied`, () => JSON.parse(JSON.stringify(from.path)) as PathSection[]);

  return { addSection, patchSection, removeSection, copySection, copyPath };
}
