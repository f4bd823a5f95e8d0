import { describe, expect, it } from 'vitest';
import { droppedFiles, pickedFiles } from '../src/features/import/dropped-files.js';

type Tree = { [name: string]: Tree | string };
/** A folder reader hands out so many entries at a time, as browsers do. */
const PART = 100;

function entryOf(name: string, thing: Tree | string, path: string): FileSystemEntry {
  const fullPath = `${path}/${name}`;
  if (typeof thing === 'string')
    return {
      isFile: true,
      isDirectory: false,
      name,
      fullPath,
      file: (take: (file: File) => void) => take(new File([thing], name)),
    } as unknown as FileSystemEntry;
  const inside = Object.entries(thing).map(([own, below]) => entryOf(own, below, fullPath));
  let at = 0;
  const readEntries = (take: (entries: FileSystemEntry[]) => void) => take(inside.slice(at, (at += PART)));
  return { isFile: false, isDirectory: true, name, fullPath, createReader: () => ({ readEntries }) } as unknown as FileSystemEntry;
}
const dropOf = (tree: Tree, files: File[] = []): DataTransfer =>
  ({
    items: Object.entries(tree).map(([name, thing]) => ({ webkitGetAsEntry: () => entryOf(name, thing, '') })),
    files,
  }) as unknown as DataTransfer;

describe('what is dropped', () => {
  it('comes with the paths of its folders, however deep, and single files under their names', async () => {
    const found = await droppedFiles(dropOf({ 'a.csv': '1', day: { 'gezeit.json': '{}', logs: { 'p01.csv': '2', empty: {} } } }));
    expect(found.map(({ path }) => path).sort()).toEqual(['a.csv', 'day/gezeit.json', 'day/logs/p01.csv']);
    expect(await found.find(({ path }) => path === 'day/logs/p01.csv')!.file.text()).toBe('2');
  });

  it.each([99, 100, 101, 250])('is whole with %i files in one folder, which come in parts', async (count) => {
    const logs = Object.fromEntries(Array.from({ length: count }, (_, i) => [`p${i}.csv`, `${i}`]));
    const found = await droppedFiles(dropOf({ logs }));
    expect(new Set(found.map(({ path }) => path)).size).toBe(count);
  });

  it('is taken as plain files where a browser tells of no entries', async () => {
    const transfer = { items: [{ webkitGetAsEntry: () => null }], files: [new File(['x'], 'x.csv')] } as unknown as DataTransfer;
    expect((await droppedFiles(transfer)).map(({ path }) => path)).toEqual(['x.csv']);
  });

  it('is told when it cannot be read', async () => {
    const broken = { isFile: true, fullPath: '/x', file: (_: unknown, fail: (error: Error) => void) => fail(new Error('gone')) };
    const transfer = { items: [{ webkitGetAsEntry: () => broken }], files: [] } as unknown as DataTransfer;
    await expect(droppedFiles(transfer)).rejects.toThrow('gone');
  });
});

describe('what is picked', () => {
  it('has its path in the folder, else its name', () => {
    const inFolder = Object.assign(new File(['1'], 'p01.csv'), { webkitRelativePath: 'day/p01.csv' });
    const single = Object.assign(new File(['2'], 'p02.csv'), { webkitRelativePath: '' });
    expect(pickedFiles([inFolder, single] as unknown as FileList).map(({ path }) => path)).toEqual(['day/p01.csv', 'p02.csv']);
  });
});
