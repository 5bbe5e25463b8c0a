import { strToU8, unzipSync, zipSync } from 'fflate';
import { no, ok, type Result } from '@/core/result';

/** What an archive may hold: looked at in its table of contents, before anything is unpacked. */
export const ZIP_LIMITS = { files: 60, bytes: 400 * 1024 * 1024, ratio: 200 } as const;

/** Whether bytes begin like a zip archive. */
export const looksLikeZip = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5);

/** The name of a file of an archive without the folders around it. */
const own = (name: string): string => name.split('/').at(-1)!;

/**
 * Unpacks an archive of flat files. Refused: names that lead elsewhere, more or larger files than anybody's course
 * has, more than 200 bytes out of one, and archives cut short.
 */
export function unzip(bytes: Uint8Array): Result<Map<string, Uint8Array>> {
  let refused = '';
  let count = 0;
  let total = 0;
  const sizes = new Map<string, number>();
  const names = new Set<string>();
  try {
    const found = unzipSync(bytes, {
      filter: ({ name, originalSize, size }) => {
        if (name.endsWith('/')) return false;
        const refuse = (reason: string) => {
          refused ||= reason;
          return false;
        };
        if (/[\\:\0]|^\/|(^|\/)\.\.(\/|$)/.test(name))
          return refuse(`holds a file whose name leads elsewhere (“${name.slice(0, 60)}”)`);
        if (names.has(own(name))) return refuse(`holds two files of the name ${own(name).slice(0, 60)}`);
        names.add(own(name));
        if (++count > ZIP_LIMITS.files) return refuse(`holds more than ${ZIP_LIMITS.files} files`);
        total += originalSize;
        if (total > ZIP_LIMITS.bytes || originalSize > ZIP_LIMITS.ratio * Math.max(size, 1000))
          return refuse('unpacks to far more than a course has');
        sizes.set(name, originalSize);
        return refused === '';
      },
    });
    if (refused) return no(refused);
    const files = new Map<string, Uint8Array>();
    for (const [name, content] of Object.entries(found)) {
      if (content.length !== sizes.get(name)) return no(`is damaged at ${name.slice(0, 60)}`);
      // A folder around all of it is common; the files are known by their own names.
      files.set(own(name), content);
    }
    return files.size > 0 ? ok(files) : no('holds no file');
  } catch {
    return no(refused || 'is no whole zip archive; send it again');
  }
}

/** Packs texts under their names. */
export const zip = (files: Readonly<Record<string, string | Uint8Array>>): Buffer =>
  Buffer.from(
    zipSync(
      Object.fromEntries(
        Object.entries(files).map(([name, c]) => [name, typeof c === 'string' ? strToU8(c) : c]),
      ),
      { level: 6 },
    ),
  );
