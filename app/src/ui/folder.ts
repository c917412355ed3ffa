/** Folders on the writer's own disk, where the browser lets a page write into them (File System Access). */

interface Picker {
  showDirectoryPicker?: (options: {
    readonly id: string;
    readonly mode: 'readwrite';
  }) => Promise<FileSystemDirectoryHandle>;
}

/** True where the browser can do it. */
export const canUseFolders = (): boolean => typeof (globalThis as Picker).showDirectoryPicker === 'function';

/** Lets the writer choose a folder; null where none was chosen. */
export async function chosenFolder(): Promise<FileSystemDirectoryHandle | null> {
  try {
    return (await (globalThis as Picker).showDirectoryPicker?.({ id: 'fendro', mode: 'readwrite' })) ?? null;
  } catch (problem) {
    if (problem instanceof DOMException && problem.name === 'AbortError') return null;
    throw problem;
  }
}

/**
 * Writes files into a folder inside of one; files of the same names are written over, others stay.
 *
 * @throws DOMException where it may not be written, or is full
 */
export async function writeInto(
  folder: FileSystemDirectoryHandle,
  name: string,
  files: readonly { readonly name: string; readonly bytes: Uint8Array<ArrayBuffer> }[],
): Promise<void> {
  const own = await folder.getDirectoryHandle(name, { create: true });
  for (const file of files) {
    const handle = await own.getFileHandle(file.name, { create: true });
    const writable = await handle.createWritable();
    await writable.write(file.bytes);
    await writable.close();
  }
}
