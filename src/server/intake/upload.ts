/** A file as it came in. */
export interface UploadedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}
