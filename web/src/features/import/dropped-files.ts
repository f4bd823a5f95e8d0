import type { BundleFile } from '../../shared/api/upload.js';

/** Files of a file picker: a folder's with their paths in it, single ones under their names. */
export function pickedFiles(list: FileList): BundleFile[] {
  return Array.from(list, (file) => ({ path: file.webkitRelativePath || file.name, file }));
}

/** Files of a drop, folders walked through. */
export async function droppedFiles(transfer: DataTransfer): Promise<BundleFile[]> {
  const entries = Array.from(transfer.items, (item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  if (entries.length === 0) return pickedFiles(transfer.files);
  return (await Promise.all(entries.map(walk))).flat();
}

async function walk(entry: FileSystemEntry): Promise<BundleFile[]> {
  const path = entry.fullPath.replace(/^\//, '');
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ path, file }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const inside: FileSystemEntry[] = [];
  // A reader hands out a folder in parts: it is read until nothing more comes.
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) break;
    inside.push(...part);
  }
  return (await Promise.all(inside.map(walk))).flat();
}
