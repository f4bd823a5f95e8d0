import type { Router } from 'vue-router';
import { useImport } from '../../model/import-store.js';
import { useStaged } from '../../model/staged-store.js';
import { openProgramme } from './open-programme.js';
import type { BundleFile } from '../../shared/api/upload.js';

const isZip = ({ path }: BundleFile) => /\.zip$/i.test(path);
const isDescription = ({ path }: BundleFile) => /(^|\/)gezeit\.json$/.test(path);

/**
 * Takes files that were dropped or picked: a bundle is imported; everything else is sorted, into the programme on whose pages they came. A .zip
 * that is no bundle is sorted too.
 */
export async function takeFiles(files: BundleFile[], router: Router, into: string | null = openProgramme(router)): Promise<void> {
  const importing = useImport();
  const single = files.length === 1 && isZip(files[0]!);
  if (files.length === 0 || files.some(isDescription) || single) {
    await importing.send(files);
    const { outcome } = importing.state ?? {};
    if (!single || outcome?.kind !== 'failed' || outcome.error.code !== 'no-description') return;
    importing.reset();
  }
  importing.open = false;
  const id = await useStaged().send(files, into);
  if (id) await router.push({ name: 'sort', params: { id } });
}
