import { open, readFile } from 'node:fs/promises';
import { looksLikeZip } from '../base/zip';

/** A file as it came in, in memory. */
export interface UploadedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** A file as it came in, on the disk. */
export interface StagedFile {
  readonly name: string;
  readonly path: string;
  readonly size: number;
}

export type Upload = UploadedFile | StagedFile;

export const sizeOf = (upload: Upload): number => ('path' in upload ? upload.size : upload.bytes.length);

/** A file in memory, wherever it was. */
export const inMemory = async (upload: Upload): Promise<UploadedFile> =>
  'path' in upload ? { name: upload.name, bytes: await readFile(upload.path) } : upload;

/** Whether a file begins like an archive. */
export async function isArchive(upload: Upload): Promise<boolean> {
  if (!('path' in upload)) return looksLikeZip(upload.bytes);
  const file = await open(upload.path);
  try {
    const head = new Uint8Array(4);
    await file.read(head, 0, head.length, 0);
    return looksLikeZip(head);
  } finally {
    await file.close();
  }
}
