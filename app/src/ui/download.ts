/** How long a made file stays at its address; a drag or a download has long begun by then. */
const KEPT_MS = 60_000;

/** A temporary address of the page's own for some bytes. */
export function downloadAddress(bytes: BlobPart, type: string): string {
  const address = URL.createObjectURL(new Blob([bytes], { type }));
  setTimeout(() => {
    URL.revokeObjectURL(address);
  }, KEPT_MS);
  return address;
}

/** Hands a file to the browser's downloads. */
export function download(name: string, bytes: BlobPart, type: string): void {
  const link = document.createElement('a');
  link.href = downloadAddress(bytes, type);
  link.download = name;
  link.click();
}
