import { whole } from '../brokenText';
import { parseMail } from './incoming';

/** Names of files that an import can read. */
const READABLE = /\.(csv|tsv|txt|json|jsonl|zip)$/i;

export interface AttachedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** The files of an e-mail (RFC 5322, MIME; RFC 2183) that an import can read, in their order. */
export async function attachedFiles(raw: Uint8Array): Promise<AttachedFile[]> {
  const mail = await parseMail(raw);
  return mail.attachments.flatMap(({ filename, content }) => {
    const name = whole(filename ?? '');
    return READABLE.test(name) ? [{ name, bytes: new Uint8Array(content) }] : [];
  });
}
