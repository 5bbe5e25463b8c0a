import PostalMime from 'postal-mime';

/** Names of files that an import can read. */
const READABLE = /\.(csv|tsv|txt|json|jsonl|zip)$/i;

export interface AttachedFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/** The files of an e-mail (RFC 5322, MIME; RFC 2183) that an import can read, in their order. */
export async function attachedFiles(raw: Uint8Array): Promise<AttachedFile[]> {
  const mail = await PostalMime.parse(raw, { attachmentEncoding: 'arraybuffer' });
  return mail.attachments.flatMap(({ filename, content }) => {
    const name = filename ?? '';
    if (!READABLE.test(name)) return [];
    const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : new Uint8Array(content);
    return [{ name, bytes }];
  });
}
